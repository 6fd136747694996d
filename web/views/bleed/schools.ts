/** Where practitioners differ, what each school does, and why ours is the default. */
export const schools: readonly {
  readonly question: string;
  readonly ways: readonly string[];
  readonly ours: string;
  readonly why: string;
}[] = [
  {
    question: 'Discharging a capacitor',
    ways: ['short it with a screwdriver', 'soft discharge stick', 'soft discharge stick, verify, strap'],
    ours: 'soft discharge stick, verify, strap',
    why: 'A bare short welds, throws metal and startles, and says nothing about what is left. The strap holds down the recovery voltage.',
  },
  {
    question: 'Whether it is discharged',
    ways: ['an indicator lamp', 'a meter'],
    ours: 'both: the lamp says when to look, the meter confirms it',
    why: 'A lamp goes out while volts remain, and a broken one never came on. A meter is proved on a known voltage before and after.',
  },
  {
    question: 'An AC-rated capacitor on DC',
    ways: ['its AC rating', 'AC × √2', 'AC test voltage × √2', 'AC × 2'],
    ours: 'AC × √2; each other one can be chosen for a part, with a warning above it',
    why: 'That is the peak it withstands on every cycle in service; more is a bet on the maker’s margin.',
  },
  {
    question: 'The setting of a gap',
    ways: ['self-break', 'triggered below self-break'],
    ours: 'triggered at 70 to 85 % of self-break, where a person must choose the moment',
    why: 'A self-breaking gap chooses the moment, and a bank stands charged until it does.',
  },
  {
    question: 'Whether the bleeder is trusted',
    ways: ['wait for its time', 'assume it is open'],
    ours: 'assume it is open until the meter and the strap say otherwise',
    why: 'One open resistor leaves the full charge for hours, and looks like a good one.',
  },
  {
    question: 'How long the strap stays on',
    ways: ['while one works', 'until the next charge, storage included'],
    ours: 'until the next charge',
    why: 'Recovery voltage builds up over minutes to days.',
  },
];
