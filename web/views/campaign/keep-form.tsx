import { useState } from 'react';
import { useNavigate } from 'react-router';
import { campaignSchema, seeks, type Answers, type CampaignPlan, type Series } from '@vast-surge/core/campaign';
import { measurable, measures } from '@vast-surge/core/shot';
import { failureOf, useCreateCampaignMutation } from '../../app/api.ts';
import { unsavedWords, versionOnceSaved } from '../../app/commands.ts';
import { useAppSelector } from '../../app/store.ts';
import { Button } from '../../ui/button.tsx';
import { Select } from '../../ui/select.tsx';
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

/** Keeps a plan as a campaign: the question, what answers it, and who asked. */
export function KeepForm({ rigId, series, plan }: { rigId: string; series: Series; plan: CampaignPlan }) {
  const [question, setQuestion] = useState('');
  const [answers, setAnswers] = useState<string>('current');
  const [name, setName] = useState('');
  const [unit, setUnit] = useState('');
  const [by, setBy] = useState('');
  const [stopAfter, setStopAfter] = useState('3');
  const [sought, setSought] = useState<(typeof seeks)[number]>('curve');
  const [trouble, setTrouble] = useState<string | null>(null);
  const base = useAppSelector((s) => s.editor.base);
  const [create, { isLoading }] = useCreateCampaignMutation();
  const navigate = useNavigate();
  const keep = async () => {
    const answer: Answers = answers === own ? { name, unit } : { measure: measurable.find((id) => id === answers) ?? 'current' };
    const read = campaignSchema.safeParse({
      question,
      answers: answer,
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
    if (!read.success) {
      setTrouble(issuesTold(read.error, titles));
      return;
    }
    const unheld = series.sessions.findIndex(({ people = '' }) => people === '');
    if (unheld >= 0) {
      setTrouble(`Session ${unheld + 1} has nobody who holds the key: enter who does, and who reads, beside its hours.`);
      return;
    }
    try {
      const version = await versionOnceSaved(rigId, base?.version ?? 1);
      if (version === null) {
        setTrouble(unsavedWords);
        return;
      }
      const id = crypto.randomUUID();
      await create({ id, rigId, version, campaign: read.data }).unwrap();
      void navigate(`/rigs/${rigId}/campaigns/${id}`);
    } catch (error) {
      setTrouble(failureOf(error).message);
    }
  };
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
        value={question}
        onText={setQuestion}
      />
      <label className="grid grid-cols-[1fr_12rem] items-baseline gap-2 py-1">
        What answers it
        <Select value={answers} onChange={(event) => setAnswers(event.target.value)}>
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
          <TextLine label="Name" most={40} value={name} onText={setName} />
          <TextLine label="Unit" most={16} value={unit} onText={setUnit} />
        </div>
      )}
      {series.design === 'next-best' && (
        <label className="grid grid-cols-[1fr_12rem] items-baseline gap-2 py-1">
          What is sought
          <Select value={sought} onChange={(event) => setSought(seeks.find((one) => one === event.target.value) ?? 'curve')}>
            {seeks.map((one) => (
              <option key={one} value={one}>
                {seekWords[one]}
              </option>
            ))}
          </Select>
        </label>
      )}
      <div className="flex flex-wrap gap-3 py-1">
        <TextLine label="Stop after misfires in a row" most={3} value={stopAfter} onText={setStopAfter} />
        <Initials value={by} onText={setBy} />
      </div>
      {trouble !== null && (
        <p role="alert" className="mt-1 font-bold text-over">
          {trouble}
        </p>
      )}
      <Button type="submit" look="primary" className="mt-2" disabled={isLoading}>
        Keep this campaign
      </Button>
    </form>
  );
}
