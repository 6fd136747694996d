import type { Meta, StoryObj } from '@storybook/react-vite';
import { Search } from 'lucide-react';
import { useState } from 'react';
import { quantity, within, type LinesField, type QuantityField, type QuantityValue } from '@vast-surge/core/field';
import { blockDefinition } from '@vast-surge/core/kind';
import { Ask, askedFor } from './ask.tsx';
import { Button } from './button.tsx';
import { FileButton } from './file-button.tsx';
import { FormulaText } from './formula-text.tsx';
import { Bar, limitWords } from './gauge.tsx';
import { IconButton } from './icon-button.tsx';
import { LinesInput } from './lines-input.tsx';
import { MoreRows } from './more-rows.tsx';
import { QuantityInput } from './quantity-input.tsx';
import { ValueSlider } from './value-slider.tsx';

export default { title: 'Parts of the interface' } satisfies Meta;
type Story = StoryObj;

const nothing = () => undefined;
const capacitance: QuantityField = quantity('Capacitance', 'F', within(1e-12, 1), '470 µF ±20 %', { tolerance: true });

export const Buttons: Story = {
  render: () => (
    <div className="flex flex-wrap items-center gap-3">
      <Button look="primary">Start a run</Button>
      <Button>Save</Button>
      <Button disabled>Save</Button>
      <Button look="quiet">Take back</Button>
      <IconButton label="Find">
        <Search size={17} aria-hidden />
      </IconButton>
      <FileButton label="Choose a file of parts" accept=".csv" onFile={nothing}>
        From a file
      </FileButton>
    </div>
  ),
};

function Held({ field, text }: { field: QuantityField; text?: string }) {
  const [value, setValue] = useState<QuantityValue | null>({
    text: '470 µF ±20 %',
    value: 470e-6,
    tolerance: { minus: 0.2, plus: 0.2 },
  });
  const [draft, setDraft] = useState<string | undefined>(text);
  return (
    <label className="block w-72">
      {field.title}
      <QuantityInput
        id={`q-${text ?? 'read'}`}
        field={field}
        value={value}
        draft={draft}
        onValue={(next) => {
          setValue(next);
          setDraft(undefined);
        }}
        onDraft={setDraft}
      />
    </label>
  );
}

/** As read, and with something typed that cannot be read: the text stays, and what may stand there is said. */
export const Quantity: Story = {
  render: () => (
    <div className="flex flex-wrap gap-8">
      <Held field={capacitance} />
      <Held field={capacitance} text="470 V" />
      <Held field={capacitance} text="12 F" />
    </div>
  ),
};

function Slid() {
  const [value, setValue] = useState<QuantityValue>({ text: '470 µF', value: 470e-6 });
  return <ValueSlider field={capacitance} value={value} onValue={setValue} />;
}
export const Slider: Story = { render: () => <Slid /> };

function Lined() {
  const field = blockDefinition('switch', 'spark-gap').fields['seen'] as LinesField;
  const [value, setValue] = useState('1.2 mm  5.4 kV');
  return (
    <label className="block w-96">
      {field.title}
      <LinesInput id="lines" field={field} value={value} onValue={setValue} />
    </label>
  );
}
export const Lines: Story = { render: () => <Lined /> };

function Asked() {
  const field = askedFor('Voltage now', 'V', 1e5, '340 V');
  const [text, setText] = useState('340 W');
  return <Ask field={field} text={text} reason="is a power; a voltage is wanted" onText={setText} />;
}
export const Question: Story = { render: () => <Asked /> };

/** Within its rating, near it, over it, and not rated. */
export const Gauges: Story = {
  render: () => (
    <div className="w-72 space-y-3">
      {[0.42, 0.93, 1.3, null].map((worst) => (
        <div key={String(worst)}>
          <Bar limit={{ worst, utilisation: worst }} />
          <span>{limitWords({ worst })}</span>
        </div>
      ))}
    </div>
  ),
};

export const Formula: Story = { render: () => <FormulaText text="E = C V^2 / 2" /> };

export const LongList: Story = {
  render: () => <MoreRows shown={50} total={1240} noun="rigs" isLoading={false} onMore={nothing} />,
};
