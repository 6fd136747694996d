/** Where practitioners differ, what each school does, and why ours is the default. */
export const schools: readonly {
  readonly question: string;
  readonly ways: readonly string[];
  readonly ours: string;
  readonly why: string;
}[] = [
  {
    question: 'Discharging a capacitor',
    ways: ['short it with a screwdriver', 'resistor tool', 'resistor tool, verify, strap'],
    ours: 'resistor tool, verify, strap',
    why: 'A bare short welds, throws metal and startles, and says nothing about what is left. The strap holds down what the dielectric gives back.',
  },
  {
    question: 'Whether it is discharged',
    ways: ['an indicator lamp', 'a meter'],
    ours: 'both: the lamp says when to look, the meter says that it is so',
    why: 'A lamp goes out while volts remain, and a broken one never came on. A meter is proved on a known voltage before and after.',
  },
  {
    question: 'Whether the bleeder is trusted',
    ways: ['wait for its time', 'take it for open'],
    ours: 'take it for open until the meter and the strap say otherwise',
    why: 'One open resistor leaves the full charge for hours, and looks like a good one.',
  },
  {
    question: 'How long the strap stays on',
    ways: ['while one works', 'until the next charge, storage included'],
    ours: 'until the next charge',
    why: 'What comes back after a discharge does so over minutes to days.',
  },
];
