import { useState } from 'react';
import { useNavigate } from 'react-router';
import { campaignSchema, type Answers, type CampaignPlan, type Series } from '@vast-surge/core/campaign';
import { fieldIssues } from '@vast-surge/core/format';
import { measurable, measures } from '@vast-surge/core/shot';
import { failureOf, useCreateCampaignMutation } from '../../app/api.ts';
import { unsavedWords, versionOnceSaved } from '../../app/commands.ts';
import { useAppSelector } from '../../app/store.ts';
import { Button } from '../../ui/button.tsx';
import { Select } from '../../ui/select.tsx';

const own = 'own';

/** What a field of a campaign is called on the page. */
const titles: Readonly<Record<string, string>> = {
  question: 'Question',
  'answers.name': 'Name',
  'answers.unit': 'Unit',
  by: 'Your initials',
  stopAfter: 'Stop after misfires in a row',
};

function Line({
  label,
  value,
  onText,
  wide = false,
}: {
  label: string;
  value: string;
  onText: (text: string) => void;
  wide?: boolean;
}) {
  return (
    <label className={`grid items-baseline gap-x-2 py-1 ${wide ? '' : 'grid-cols-[1fr_9rem]'}`}>
      {label}
      <input
        className="min-w-0 border border-rule bg-plate px-2 py-0.5"
        value={value}
        onChange={(event) => onText(event.target.value)}
      />
    </label>
  );
}

/** Keeps a plan as a campaign: the question, what answers it, and who asked. */
export function KeepForm({ rigId, series, plan }: { rigId: string; series: Series; plan: CampaignPlan }) {
  const [question, setQuestion] = useState('');
  const [answers, setAnswers] = useState<string>('current');
  const [name, setName] = useState('');
  const [unit, setUnit] = useState('');
  const [by, setBy] = useState('');
  const [stopAfter, setStopAfter] = useState('3');
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
      sessions: series.sessions.map(({ start, seconds }) => ({ start, seconds, people: '' })),
      stopAfter: Number(stopAfter.trim() || NaN),
      by,
    });
    if (!read.success) {
      const told = fieldIssues(read.error).map(({ path, reason }) => `${titles[path] ?? path} ${reason}`);
      setTrouble(`${told.join('. ')}.`);
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
      <Line wide label="Question, such as “Which charge voltage gives the most light?”" value={question} onText={setQuestion} />
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
          <Line label="Name" value={name} onText={setName} />
          <Line label="Unit" value={unit} onText={setUnit} />
        </div>
      )}
      <Line label="Stop after misfires in a row" value={stopAfter} onText={setStopAfter} />
      <Line label="Your initials" value={by} onText={setBy} />
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
