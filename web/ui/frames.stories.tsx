import type { Meta, StoryObj } from '@storybook/react-vite';
import { Tabs } from 'radix-ui';
import { toast, Toaster } from 'sonner';
import { evaluateRig } from '@vast-surge/core/evaluation';
import { blockDefinition, groupsOf, newBlock } from '@vast-surge/core/kind';
import { newRig } from '@vast-surge/core/rig';
import { verdictTitles } from '@vast-surge/core/runsheet';
import { Chart } from '../plot/chart.tsx';
import { FieldGroup } from '../views/rig/field-group.tsx';
import { plots } from '../views/rig/plots.ts';
import { VerdictSign } from '../views/rig-shell/verdict-sign.tsx';
import { Button } from './button.tsx';
import { Select } from './select.tsx';
import { TabRow } from './tab-row.tsx';

export default { title: 'Choices and frames' } satisfies Meta;
type Story = StoryObj;

const rig = newRig();
const [first] = groupsOf(blockDefinition('switch', 'spark-gap'), newBlock(blockDefinition('switch', 'spark-gap')));

/** As it is, beside text of its line, in a row with buttons, and where nothing can be chosen. */
export const Choice: Story = {
  render: () => (
    <div className="flex flex-wrap items-center gap-3">
      {(['usual', 'small', 'tall'] as const).map((fit) => (
        <label key={fit}>
          Switch{' '}
          <Select fit={fit} defaultValue="gap">
            <option value="gap">spark gap</option>
            <option value="scr">thyristor</option>
          </Select>
        </label>
      ))}
      <label>
        Switch{' '}
        <Select disabled>
          <option>spark gap</option>
        </Select>
      </label>
    </div>
  ),
};

/** Complete, with something missing, with something wrong: that one opens itself. */
export const Groups: Story = {
  render: () => (
    <div className="w-80">
      {first &&
        [
          { of: { ...first, title: 'Ratings', missing: 0, assumed: 0 }, isWrong: false },
          { of: { ...first, title: 'Geometry and strays', missing: 1, assumed: 2 }, isWrong: false },
          { of: { ...first, title: 'Life' }, isWrong: true },
        ].map(({ of, isWrong }) => (
          <FieldGroup key={of.title} of={{ ...of, group: 'life' }} isWrong={isWrong}>
            What is asked for
          </FieldGroup>
        ))}
    </div>
  ),
};

/** The verdicts beside each other: sign and word, never colour alone. */
export const Verdicts: Story = {
  render: () => (
    <ul>
      {(['go at most', 'not now', 'do not fire'] as const).map((word) => (
        <li key={word} className="flex items-center gap-2">
          <VerdictSign word={word} /> <b>{verdictTitles[word]}</b>
        </li>
      ))}
    </ul>
  ),
};

export const Toasts: Story = {
  render: () => (
    <div className="flex gap-3">
      <Button onClick={() => toast('Anvil was copied.')}>Say that it is done</Button>
      <Button onClick={() => toast.error('Anvil was not copied: the server does not answer.')}>Say that it is not</Button>
      <Toaster position="bottom-left" />
    </div>
  ),
};

export const Tabbed: Story = {
  render: () => (
    <Tabs.Root defaultValue="charge">
      <TabRow
        label="What to show"
        tabs={[
          { id: 'charge', title: 'Charge' },
          { id: 'discharge', title: 'Discharge' },
        ]}
      />
      <Tabs.Content value="charge">Over seconds</Tabs.Content>
      <Tabs.Content value="discharge">Over microseconds</Tabs.Content>
    </Tabs.Root>
  ),
};

/** The discharge of a new rig: two axes with one nought, a point with its words, round ticks. */
export const Plot: Story = {
  render: () => (
    <div className="h-64 w-[40rem]">
      <Chart spec={plots.discharge(evaluateRig(rig))} label="discharge of a new rig over time" />
    </div>
  ),
};
