import Papa from 'papaparse';
import {
  answered,
  campaignMarkdown,
  campaignRows,
  leftCalendar,
  replan,
  settingRows,
  type Kept,
} from '@vast-surge/core/campaign';
import { readCampaignData, wordFileIssue } from '@vast-surge/core/format';
import { axisOf } from '@vast-surge/core/shot';
import { moments, oneOf, readSession } from './plan.ts';
import { readJson, UsageError } from './usage.ts';

export interface CampaignOptions {
  readonly session: readonly string[];
  readonly format: string;
}

const formats = ['markdown', 'csv', 'ics', 'json'] as const;

/** A campaign as its page saves it. @throws UsageError naming what cannot be read */
function readCampaign(text: string): Kept {
  const read = readCampaignData(readJson('CAMPAIGN.json', text));
  if (read.ok) return read.kept;
  throw new UsageError(`CAMPAIGN.json: ${read.issues.map(wordFileIssue).join('; ').slice(0, 400)}`);
}

/** What is left of it, laid into hours: those named, else those that it has from now on. */
function left(kept: Kept, sessions: CampaignOptions['session'], now: number) {
  const hours = sessions.map(readSession);
  const progress = hours.length === 0 ? kept.progress : { ...kept.progress, sessions: hours };
  return replan(kept.campaign, progress, now);
}

/** What a campaign has come to: its report, its shots as a table, its answer as JSON, or what is left of it as a calendar. */
export function campaignText(text: string, options: CampaignOptions, now: number): string {
  const kept = readCampaign(text);
  const as = oneOf('format', options.format, formats);
  if (as === 'csv') return Papa.unparse(campaignRows(kept), { newline: '\n', escapeFormulae: true });
  if (as === 'markdown') return campaignMarkdown(kept, moments);
  const rest = left(kept, options.session, now);
  if (as === 'ics') return leftCalendar(`${kept.rig}: ${kept.campaign.question}`, rest, moments).trimEnd();
  const found = answered(kept);
  const { done, dropped, places, stocks } = kept.progress;
  return JSON.stringify(
    {
      question: kept.campaign.question,
      rig: kept.rig,
      answers: axisOf(kept.campaign.answers).title,
      fired: done,
      leftOut: dropped,
      left: places.length - done - dropped,
      answer: found?.says ?? null,
      next: found?.next ?? null,
      settings: settingRows(kept, found),
      stocks: stocks.map(({ stock, left: there, lastsFor }) => ({ title: stock.title, unit: stock.unit, left: there, lastsFor })),
      sessions: rest.sessions.map(({ session, shots }) => ({
        start: new Date(session.start).toISOString(),
        people: session.people ?? '',
        shots: shots.map(({ of, start }) => ({ shot: of.place + 1, start: new Date(start).toISOString() })),
      })),
      withoutHour: rest.dropped.map(({ place }) => place + 1),
    },
    null,
    2,
  );
}
