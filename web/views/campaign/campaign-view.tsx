import Papa from 'papaparse';
import { FileDown, Printer } from 'lucide-react';
import { useMemo } from 'react';
import { Link, useParams } from 'react-router';
import type { StoredCampaign } from '@vast-surge/contract';
import { answered, campaignMarkdown, campaignRows, type Kept } from '@vast-surge/core/campaign';
import { campaignFileMark, campaignFileVersion } from '@vast-surge/core/format';
import type { RigDocument } from '@vast-surge/core/rig';
import { axisOf } from '@vast-surge/core/shot';
import { failureOf, useGetCampaignQuery, useListRunsInfiniteQuery } from '../../app/api.ts';
import { usePolling } from '../../app/live.ts';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';
import { RigDesk } from '../rig-desk.tsx';
import { useShots } from '../shots/use-shots.ts';
import { AnswerPanel } from './answer-panel.tsx';
import { Book } from './book.tsx';
import { reportMoments } from './moments.ts';
import { NextShot } from './next-shot.tsx';
import { useKept } from './use-campaign.ts';
import { WhatIsLeft } from './what-is-left.tsx';

function Files({ stored, kept }: { stored: StoredCampaign; kept: Kept }) {
  const file = fileName(`${stored.rigName} ${stored.campaign.question}`).slice(0, 60);
  return (
    <p className="no-print mt-2 flex flex-wrap gap-2">
      <Button onClick={() => download(`${file}.md`, campaignMarkdown(kept, reportMoments))}>
        <FileDown size={16} aria-hidden /> Markdown
      </Button>
      <Button onClick={() => download(`${file}.csv`, Papa.unparse(campaignRows(kept), { newline: '\n', escapeFormulae: true }))}>
        <FileDown size={16} aria-hidden /> CSV
      </Button>
      <Button
        onClick={() =>
          download(
            `${file}.json`,
            JSON.stringify({ format: campaignFileMark, version: campaignFileVersion, ...stored, caught: kept.caught }, null, 2),
          )
        }
      >
        <FileDown size={16} aria-hidden /> JSON
      </Button>
      <Button onClick={() => window.print()}>
        <Printer size={16} aria-hidden /> Print
      </Button>
    </p>
  );
}

function Opened({ stored, document }: { stored: StoredCampaign; document: RigDocument }) {
  // All shots of the rig teach of it: those of the campaign alone would say otherwise than the shot log.
  const { shots: all = [] } = useShots({ rig: stored.rigId, outcome: '', q: '' }, true);
  const { data } = useListRunsInfiniteQuery({ q: '', rig: stored.rigId, limit: '200' }, { refetchOnMountOrArgChange: true });
  const runs = useMemo(() => data?.pages.flatMap(({ rows }) => rows) ?? [], [data]);
  const { kept, isLearning } = useKept(document.rig, stored, all, runs);
  const found = useMemo(() => answered(kept), [kept]);
  const { campaign, progress } = kept;
  const left = progress.places.length - progress.done - progress.dropped;
  return (
    <>
      <p className="text-14">
        <Link className="no-print text-select underline" to={`/rigs/${stored.rigId}/campaigns`}>
          Campaigns with {document.name}
        </Link>
      </p>
      <h1 className="text-20 font-bold">{campaign.question}</h1>
      <p className="mt-1">
        <b className="figure text-24">{progress.done}</b> of {progress.places.length} fired
        {progress.dropped > 0 && `, ${progress.dropped} left out`}
        {left > 0 && `, ${left} left`}. {axisOf(campaign.answers).name} answers it. Planned by {campaign.by}, on revision{' '}
        {stored.revision}.
      </p>
      <NextShot stored={stored} kept={kept} known={{ document, all, runs, isLearning }} />
      <AnswerPanel kept={kept} document={document} found={found} />
      <WhatIsLeft stored={stored} kept={kept} />
      <Book stored={stored} kept={kept} />
      <Files stored={stored} kept={kept} />
      <p className="mt-4 text-14 text-dim">
        What is calculated is not what stands at the rig: verify with the meter. Local codes and licensed practice come first.
      </p>
    </>
  );
}

function Fetched({ id, document }: { id: string; document: RigDocument }) {
  const { data, error } = useGetCampaignQuery(id, { refetchOnMountOrArgChange: true, pollingInterval: usePolling(15_000) });
  if (data) return <Opened stored={data} document={document} />;
  if (error)
    return (
      <div role="alert" className="border-l-4 border-over bg-plate p-4">
        <h1 className="text-20 font-bold">This campaign cannot be shown</h1>
        <p>{failureOf(error).message}</p>
      </div>
    );
  return <p role="status">Fetching …</p>;
}

/** One campaign: the next shot first, then the answer so far, what is left, and the book. */
export function CampaignView() {
  const { campaign = '' } = useParams();
  return (
    <RigDesk whole width="max-w-[1100px]">
      {(document) => <Fetched key={campaign} id={campaign} document={document} />}
    </RigDesk>
  );
}
