import type { Meta, StoryObj } from '@storybook/react-vite';
import { MemoryRouter } from 'react-router';
import { RigReading } from '@vast-surge/core/figure';
import { printQuantity } from '@vast-surge/core/quantity';
import { newRig } from '@vast-surge/core/rig';
import { Button } from './button.tsx';
import { Sheet } from './sheet.tsx';
import { WorkedNumber } from './worked-number.tsx';
import { WorkingLines } from './working-lines.tsx';

export default {
  title: 'Numbers and their working',
  decorators: [
    (Story) => (
      <MemoryRouter>
        <Story />
      </MemoryRouter>
    ),
  ],
} satisfies Meta;
type Story = StoryObj;

const rig = newRig();
const energy = () => new RigReading(rig).figure('stored-energy');

/** A number that opens its working: the energy of a new rig. */
export const Worked: Story = {
  render: () => <WorkedNumber title="Stored energy" printed={printQuantity(energy().value, 'J')} worked={energy} rig={rig} />,
};

export const Working: Story = { render: () => <WorkingLines rig={rig} worked={energy()} /> };

export const AsSheet: Story = {
  render: () => (
    <Sheet title="Take it off the list?" says="Its revisions and shots stay." onClose={() => undefined}>
      <Button look="primary">Take it off</Button>
    </Sheet>
  ),
};
