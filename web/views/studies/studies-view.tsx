import { useMemo } from 'react';
import { Tabs } from 'radix-ui';
import type { FigureId } from '@vast-surge/core/block';
import { leversOf } from '@vast-surge/core/evaluation';
import { ifKnown, RigReading } from '@vast-surge/core/figure';
import { usualAxis, usualOutputs, type Output } from '@vast-surge/core/study';
import type { RigDocument } from '@vast-surge/core/rig';
import { Button } from '../../ui/button.tsx';
import { Select } from '../../ui/select.tsx';
import { TabRow } from '../../ui/tab-row.tsx';
import { useOutputs } from '../../workers/rig-study.ts';
import { RigDesk } from '../rig-desk.tsx';
import { WhatMatters } from './matters.tsx';
import { HowItScatters } from './scatter.tsx';
import { Vary } from './vary.tsx';
import { studies, useStudyAddress } from './ways.ts';

const tabs = [
  { id: 'vary', title: 'Vary a field' },
  { id: 'matters', title: 'What matters' },
  { id: 'scatter', title: 'How it scatters' },
] as const;

const groups: readonly { readonly from: Output['from']; readonly title: string }[] = [
  { from: 'figure', title: 'Figures' },
  { from: 'limit', title: 'Limits' },
  { from: 'solver', title: 'By the solver' },
];

function OutputChoice({
  label,
  value,
  all,
  onChange,
}: {
  label: string;
  value: string;
  all: readonly Output[];
  onChange: (id: string) => void;
}) {
  return (
    <label className="flex min-w-0 items-baseline gap-2 font-bold">
      {label}
      <Select className="max-w-[22rem]" value={value} onChange={(event) => onChange(event.target.value)}>
        {groups.map(({ from, title }) => (
          <optgroup key={from} label={title}>
            {all
              .filter((one) => one.from === from)
              .map((one) => (
                <option key={one.id} value={one.id}>
                  {one.of}
                </option>
              ))}
          </optgroup>
        ))}
      </Select>
    </label>
  );
}

function Desk({ document, id }: { document: RigDocument; id: string }) {
  const { rig, name } = document;
  const all = useOutputs(rig);
  const address = useStudyAddress(rig);
  const ids = address.outputs.join('\n');
  const chosen = useMemo(() => {
    if (!all) return [];
    const asked = ids.split('\n').flatMap((wanted) => all.find((one) => one.id === wanted) ?? []);
    const usual = usualOutputs.flatMap((wanted) => all.find((one) => one.id === wanted) ?? []).slice(0, 1);
    return asked.length > 0 ? asked : usual.length > 0 ? usual : all.slice(0, 1);
  }, [all, ids]);
  const [first] = chosen;
  const levers = useMemo(() => {
    if (first?.from !== 'figure') return [];
    const worked = ifKnown(() => new RigReading(rig).figure(first.id as FigureId));
    return worked ? leversOf(worked) : [];
  }, [rig, first]);
  if (all?.length === 0)
    return (
      <p role="alert" className="border-l-4 border-over bg-plate p-3">
        No figure of this rig can be calculated yet. Enter the values that its page lists as missing.
      </p>
    );
  if (!all || !first) return <p role="status">Reading the rig …</p>;
  const usual = usualAxis(rig, levers.includes('store.V0') || levers.length === 0 ? 'store.V0' : (levers[0] ?? 'store.V0'));
  const axes = address.axes.length > 0 ? address.axes : usual ? [usual] : [];
  const put = (k: number, output: string) => address.setOutputs(chosen.map((one) => one.id).with(k, output));
  const isVary = address.kind === 'vary';
  const next =
    all.find((one) => usualOutputs.includes(one.id) && !chosen.includes(one)) ?? all.find((one) => !chosen.includes(one));
  return (
    <Tabs.Root value={address.kind} onValueChange={(kind) => address.setKind(studies.find((one) => one === kind) ?? 'vary')}>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        <h1 className="mr-auto text-20 font-bold">Studies: {name}</h1>
        <TabRow label="Studies" tabs={tabs} />
      </div>
      <div className="mt-4 mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        {(address.kind === 'matters' ? chosen.slice(0, 1) : chosen).map((one, k) => (
          <span key={one.id} className="flex min-w-0 items-baseline gap-2">
            <OutputChoice label={k === 0 ? 'Figure' : 'and'} value={one.id} all={all} onChange={(output) => put(k, output)} />
            {k > 0 && (
              <Button
                look="quiet"
                aria-label={`Leave ${one.title} out`}
                onClick={() => address.setOutputs(chosen.filter((o) => o !== one).map((o) => o.id))}
              >
                Leave out
              </Button>
            )}
          </span>
        ))}
        {address.kind !== 'matters' && chosen.length < 3 && next && (
          <Button look="quiet" onClick={() => address.setOutputs([...chosen.map((one) => one.id), next.id])}>
            Add a figure
          </Button>
        )}
      </div>
      <Tabs.Content value={address.kind} tabIndex={-1}>
        {isVary && (
          <Vary rigId={id} document={document} outputs={chosen} all={all} levers={levers} axes={axes} onAxes={address.setAxes} />
        )}
        {address.kind === 'matters' &&
          (first.from === 'solver' ? (
            <p role="status">
              This needs some thousand evaluations, which takes hours with the solver. Choose a figure in closed form.
            </p>
          ) : (
            <WhatMatters document={document} output={first} rigAddress={`/rigs/${id}`} />
          ))}
        {address.kind === 'scatter' && <HowItScatters rigId={id} document={document} outputs={chosen} />}
      </Tabs.Content>
    </Tabs.Root>
  );
}

/** A rig asked many times: fields varied, what matters, how it scatters. */
export function StudiesView() {
  return (
    <RigDesk width="max-w-[76rem]" whole>
      {(document, id) => <Desk document={document} id={id} />}
    </RigDesk>
  );
}
