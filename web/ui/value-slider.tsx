import { useEffect, useState } from 'react';
import { Slider } from 'radix-ui';
import { readQuantityText, type QuantityField, type QuantityValue } from '@vast-surge/core/field';
import { inSI, printAsTyped, printTolerance } from '@vast-surge/core/quantity';
import { newBurst } from './burst.ts';
import { heldSlider } from './held.ts';

interface Props {
  readonly field: QuantityField;
  readonly value: QuantityValue;
  /** `burst` names one drag: an undo takes it back as one. */
  readonly onValue: (value: QuantityValue, burst: string) => void;
}

/** Places of the slider either way of where it began. */
const places = 120;

/** The value at a place: a decade either way; by ones where it counts, and in even parts where nought is in its range. */
function valueAt(field: QuantityField, start: number, place: number): number {
  if (field.integer) return start + Math.round((place * Math.max(10, start)) / places);
  if (start === 0) return Math.max(0, (place / places) * Math.min(1, field.max));
  return Number((start * 10 ** (place / places)).toPrecision(3));
}

/** A slider for the value of a field: everything that depends on it moves along while it is held. */
export function ValueSlider({ field, value, onValue }: Props) {
  const [start, setStart] = useState(value.value);
  const [place, setPlace] = useState(0);
  const [burst, setBurst] = useState(newBurst);
  const [given, setGiven] = useState(value.value);
  // Somebody typed: the slider begins again from there.
  if (value.value !== given) {
    setGiven(value.value);
    setStart(value.value);
    setPlace(0);
  }
  // One that is taken off the page is held no more.
  useEffect(() => () => heldSlider.set(false), []);
  const move = (next: number) => {
    const wanted = Math.min(field.max, Math.max(field.min, valueAt(field, start, next)));
    const tolerance = value.tolerance ? printTolerance(value) : '';
    const text = inSI(() => printAsTyped(wanted, field.unit, value.text, { digits: 6, trim: true }));
    const read = readQuantityText(field, text + tolerance);
    setPlace(next);
    if (!read.ok || !read.value) return;
    setGiven(read.value.value);
    onValue(read.value, burst);
  };
  return (
    <Slider.Root
      className="relative flex h-6 w-full touch-none items-center"
      min={-places}
      max={places}
      step={1}
      value={[place]}
      onValueChange={([next]) => {
        if (next === undefined) return;
        heldSlider.set(true);
        move(next);
      }}
      onValueCommit={() => {
        heldSlider.set(false);
        setBurst(newBurst());
      }}
    >
      <Slider.Track className="relative h-px grow bg-dim">
        <Slider.Range className="absolute h-px" />
      </Slider.Track>
      <Slider.Thumb
        aria-label="Slide to change this value"
        className="block h-5 w-2.5 cursor-ew-resize border border-ink bg-select focus-visible:outline-2 focus-visible:outline-offset-2"
      />
    </Slider.Root>
  );
}
