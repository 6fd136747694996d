import { useState } from 'react';
import { Link } from 'react-router';
import { Button } from '../../ui/button.tsx';

const key = 'vast-surge.guide';

const steps: readonly (readonly [string, string])[] = [
  ['Open a rig', 'One line from supply to load. Click a block, or press [ and ], and its fields open below.'],
  ['Type as on paper', '4u7, 2.2k, 1.2 kV ±5 %, 3/8 in, 16 AWG. What is doubtful is refused with the reason, never guessed.'],
  [
    'Read the ladder',
    'Every stress against its rating, worst case over the tolerances, tightest first, and what would relieve it.',
  ],
  ['Ask any number', 'Click it or press w: formula, numbers, source, and where each input came from. Ask it backwards, too.'],
  ['Take the run sheet', 'Steps with the times, voltages and ranges to expect. Print it, tick the holds, keep the strap on.'],
];

/** One screen for whoever is here for the first time. */
export function Guide() {
  const [open, setOpen] = useState(() => localStorage.getItem(key) !== 'dismissed');
  const show = (next: boolean) => {
    localStorage.setItem(key, next ? 'shown' : 'dismissed');
    setOpen(next);
  };
  if (!open) {
    return (
      <Button look="quiet" className="mt-2 text-14" onClick={() => show(true)}>
        Show the guide
      </Button>
    );
  }
  return (
    <section aria-label="Guide" className="mt-4 border border-ink bg-plate p-5">
      <h2 className="text-19 font-bold">What a bank can do, and what it can do to you, before it is charged</h2>
      <ol className="mt-3 grid gap-x-6 gap-y-3 md:grid-cols-2 xl:grid-cols-5">
        {steps.map(([title, text], i) => (
          <li key={title} className="border-t border-rule pt-2">
            <b>
              {i + 1}. {title}
            </b>
            <p className="mt-1 text-14">{text}</p>
          </li>
        ))}
      </ol>
      <p className="mt-3 text-14">
        Anvil, Kittiwake, Shuttle and Thimble belong to the Pump House, an invented workshop: change them, copy them, archive
        them. Single questions go to{' '}
        <Link className="text-select underline" to="/sums">
          Sums
        </Link>
        . The program informs and protects nobody: verify with a meter, and local codes and licensed practice come first.
      </p>
      <Button className="mt-3" onClick={() => show(false)}>
        Dismiss the guide
      </Button>
    </section>
  );
}
