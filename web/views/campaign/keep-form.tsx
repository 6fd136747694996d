import { useState } from 'react';
import { useNavigate } from 'react-router';
import { campaignSchema, seeks, type CampaignPlan, type Series } from '@vast-surge/core/campaign';
import { measurable, measures } from '@vast-surge/core/shot';
import { failureOf, useCreateCampaignMutation } from '../../app/api.ts';
import { unsavedWords, versionOnceSaved } from '../../app/commands.ts';
import { useAppSelector } from '../../app/store.ts';
import { Button } from '../../ui/button.tsx';
import { Select } from '../../ui/select.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';
import { Initials, issuesTold, TextLine } from './fields.tsx';

const own = 'own';

const seekWords: { readonly [K in (typeof seeks)[number]]: string } = {
  curve: 'the whole curve',
  highest: 'where it is highest',
  lowest: 'where it is lowest',
};

/** What a field of a campaign is called on the page. */
const titles: Readonly<Record<string, string>> = {
  question: 'Question',
  'answers.name': 'Name',
  'answers.unit': 'Unit',
  by: 'Your initials',
  stopAfter: 'Stop after misfires in a row',
};

interface Typed {
  readonly question: string;
  /** A measure, or `own`: a quantity with a name and a unit. */
  readonly answers: string;
  readonly name: string;
  readonly unit: string;
  readonly by: string;
  readonly stopAfter: string;
  readonly sought: (typeof seeks)[number];
}

/** The campaign that a plan and what was typed make, or what is wrong with it. */
function campaignFrom(series: Series, plan: CampaignPlan, typed: Typed) {
  const { question, answers, name, unit, by, stopAfter, sought } = typed;
  const read = campaignSchema.safeParse({
    question,
    answers: answers === own ? { name, unit } : { measure: measurable.find((id) => id === answers) ?? 'current' },
    settings: plan.settings,
    row: plan.row,
    design: series.design,
    order: series.order,
    before: plan.before,
    after: plan.after,
    rest: series.rest,
    sessions: series.sessions.map(({ start, seconds, people = '' }) => ({ start, seconds, people })),
    stocks: plan.stocks.map(({ stock }) => stock),
    seeks: sought,
    stopAfter: Number(stopAfter.trim() || NaN),
    by,
  });
  if (!read.success) return issuesTold(read.error, titles);
  const unheld = read.data.sessions.findIndex(({ people }) => people === '');
  return unheld >= 0
    ? `Session ${unheld + 1} has nobody who holds the key: enter who does, and who reads, beside its hours.`
    : read.data;
}

/** What is typed, and how it is kept. */
function useKeep(rigId: string, series: Series, plan: CampaignPlan) {
  const [typed, setTyped] = useState<Typed>({
    question: '',
    answers: 'current',
    name: '',
    unit: '',
    by: '',
    stopAfter: '3',
    sought: 'curve',
  });
  const [trouble, setTrouble] = useState<string | null>(null);
  const base = useAppSelector((s) => s.editor.base);
  const [create, { isLoading }] = useCreateCampaignMutation();
  const navigate = useNavigate();
  const keep = async () => {
    const campaign = campaignFrom(series, plan, typed);
    if (typeof campaign === 'string') {
      setTrouble(campaign);
      return;
    }
    try {
      const version = await versionOnceSaved(rigId, base?.version ?? 1);
      if (version === null) {
        setTrouble(unsavedWords);
        return;
      }
      const id = crypto.randomUUID();
      await create({ id, rigId, version, campaign }).unwrap();
      void navigate(`/rigs/${rigId}/campaigns/${id}`);
    } catch (error) {
      setTrouble(failureOf(error).message);
    }
  };
  const set = (change: Partial<Typed>) => setTyped((now) => ({ ...now, ...change }));
  return { typed, set, trouble, keep, isKeeping: isLoading };
}

interface Part {
  readonly typed: Typed;
  readonly set: (change: Partial<Typed>) => void;
}

/** What answers the question: a measure, or a quantity with a name and a unit of one’s own. */
function AnswerFields({ typed: { answers, name, unit }, set }: Part) {
  return (
    <>
      <label className="grid grid-cols-[1fr_12rem] items-baseline gap-2 py-1">
        What answers it
        <Select value={answers} onChange={(event) => set({ answers: event.target.value })}>
          {measurable.map((id) => (
            <option key={id} value={id}>
              {measures[id].title}
            </option>
          ))}
          <option value={own}>a quantity of one’s own</option>
        </Select>
      </label>
      {answers === own && (
        <div className="grid grid-cols-2 gap-3">
          <TextLine label="Name" most={40} value={name} onText={(text) => set({ name: text })} />
          <TextLine label="Unit" most={16} value={unit} onText={(text) => set({ unit: text })} />
        </div>
      )}
    </>
  );
}

const SoughtField = ({ typed: { sought }, set }: Part) => (
  <label className="grid grid-cols-[1fr_12rem] items-baseline gap-2 py-1">
    What is sought
    <Select value={sought} onChange={(event) => set({ sought: seeks.find((one) => one === event.target.value) ?? 'curve' })}>
      {seeks.map((one) => (
        <option key={one} value={one}>
          {seekWords[one]}
        </option>
      ))}
    </Select>
  </label>
);

/** Keeps a plan as a campaign: the question, what answers it, and who asked. */
export function KeepForm({ rigId, series, plan }: { rigId: string; series: Series; plan: CampaignPlan }) {
  const { typed, set, trouble, keep, isKeeping } = useKeep(rigId, series, plan);
  return (
    <form
      aria-label="Keep it as a campaign"
      className="no-print mt-3 max-w-[34rem] border-l-4 border-select bg-plate px-3 py-2"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <h3 className="font-bold">Keep it, and fire from it</h3>
      <TextLine
        className="block py-1"
        label="Question, such as “Which charge voltage gives the most light?”"
        value={typed.question}
        onText={(question) => set({ question })}
      />
      <AnswerFields typed={typed} set={set} />
      {series.design === 'next-best' && <SoughtField typed={typed} set={set} />}
      <div className="flex flex-wrap gap-3 py-1">
        <TextLine
          label="Stop after misfires in a row"
          most={3}
          value={typed.stopAfter}
          onText={(stopAfter) => set({ stopAfter })}
        />
        <Initials value={typed.by} onText={(by) => set({ by })} />
      </div>
      <TroubleLine look="words" className="mt-1">
        {trouble}
      </TroubleLine>
      <Button type="submit" look="primary" className="mt-2" disabled={isKeeping}>
        Keep this campaign
      </Button>
    </form>
  );
}
