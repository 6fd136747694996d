import { box, circle, over, plates, type Stroke } from '../../block/index.ts';

/** Pictures of starters, 120 wide and 80 high: the few strokes by which each machine is known. */

const line = (d: string, width?: number): Stroke => ({ d, ...(width === undefined ? {} : { width }) });
const dashed = (d: string): Stroke => ({ d, dashed: true, width: 1.5 });
const rails = (from: number, to: number, top = 16, foot = 64): Stroke => line(`M${from} ${top}H${to}M${from} ${foot}H${to}`);
const capacitor = (x: number, top = 16, foot = 64): readonly Stroke[] => {
  const mid = (top + foot) / 2;
  return [line(`M${x} ${top}V${mid - 3}M${x} ${mid + 3}V${foot}`), plates(x, mid)];
};
const gap = (x: number, y: number, r = 5): readonly Stroke[] => [
  { d: box(x - r, y - 4, 2 * r, 8), fill: 'ground', width: 0 },
  over(circle(x - 1.6 * r, y, r)),
  over(circle(x + 1.6 * r, y, r)),
];
/** Turns of a coil in section, beside each other. */
const turns = (x: number, y: number, count: number, pitch = 8): readonly Stroke[] =>
  Array.from({ length: count }, (_, k) => over(circle(x + k * pitch, y, 3)));
const coilAbout = (x: number, count: number, half = 15): readonly Stroke[] => [
  ...turns(x, 40 - half, count),
  ...turns(x, 40 + half, count),
];
const battery = (x: number, y: number): readonly Stroke[] => [
  line(`M${x} ${y - 12}V${y - 4}M${x} ${y + 4}V${y + 12}`),
  line(`M${x - 10} ${y - 4}h20M${x - 5} ${y + 4}h10`, 2.5),
];

export const pictures = {
  bank: [rails(10, 110), ...[24, 60, 96].flatMap((x) => capacitor(x))],
  marx: [
    line('M8 72H20'),
    ...[0, 1, 2].flatMap((k) => {
      const [x, foot] = [20 + k * 34, 72 - k * 20];
      const top = foot - 24;
      return [...capacitor(x, top, foot), line(`M${x} ${top}H${x + 34}`), ...gap(x + 12, top, 3)];
    }),
    ...[54, 88].flatMap((x, k) => [line(`M${x} ${48 - k * 20}v${4}`, 2)]),
  ],
  coilgun: [
    ...coilAbout(40, 6),
    line('M10 34H112M10 46H112'),
    { d: box(20, 36, 24, 8), fill: 'line' },
    line('M84 40h18m-6 -4l6 4l-6 4', 1.6),
  ],
  coilguns: [
    ...[22, 54, 86].flatMap((x) => coilAbout(x, 3)),
    line('M8 34H114M8 46H114'),
    { d: box(34, 36, 15, 8), fill: 'line' },
  ],
  teslaDc: [
    line('M60 12m-26 0a26 7 0 1 0 52 0a26 7 0 1 0 -52 0'),
    line('M60 19V24'),
    ...Array.from({ length: 9 }, (_, k) => line(`M50 ${25 + k * 4}h20`, 1.4)),
    ...turns(24, 68, 4, 7),
    ...turns(75, 68, 4, 7),
    line('M60 61V76m-8 0h16', 1.6),
  ],
  teslaAc: [
    line('M72 12m-26 0a26 7 0 1 0 52 0a26 7 0 1 0 -52 0'),
    line('M72 19V24'),
    ...Array.from({ length: 9 }, (_, k) => line(`M62 ${25 + k * 4}h20`, 1.4)),
    ...turns(38, 68, 3, 7),
    ...turns(87, 68, 3, 7),
    line('M72 61V76m-8 0h16', 1.6),
    line('M6 40q6 -12 12 0t12 0', 1.8),
  ],
  magnetiser: [
    ...coilAbout(34, 8, 20),
    { d: box(46, 34, 32, 12), fill: 'ground' },
    line('M62 34v12', 1.4),
    dashed('M28 40H8M92 40H112'),
  ],
  can: [...coilAbout(52, 3, 26), line('M24 24H96V56H24z', 1.6), line('M46 24q14 12 28 0M46 56q14 -12 28 0', 1.6)],
  wire: [
    line('M14 20h20v40h-20M106 20h-20v40h20'),
    line('M34 40h52', 1.2),
    line('M60 22v8M60 50v8M46 27l4 6M74 27l-4 6M46 53l4 -6M74 53l-4 -6', 1.5),
  ],
  peaking: [
    rails(8, 112),
    ...capacitor(24),
    ...gap(52, 16),
    ...capacitor(74),
    line('M100 16v14m0 20v14'),
    over(box(95, 30, 10, 20)),
  ],
  battery: [
    ...battery(16, 40),
    line('M16 28V16H40M16 52V64H40'),
    over(box(30, 28, 20, 24)),
    line('M40 16v12M40 52v12M50 34h12M50 46h12'),
    ...coilAbout(74, 4, 13),
    line('M62 36H112M62 44H112'),
  ],
  multiplier: [
    line('M4 40q4 -10 8 0t8 0', 1.8),
    line('M20 40h4M48 40h8'),
    over(box(24, 26, 24, 28)),
    line('M28 40h4M44 40h-4M32 33v14l8 -7zM40 33v14', 1.6),
    ...[0, 1].flatMap((k) => {
      const [x, foot] = [62 + k * 32, 64 - k * 20];
      const top = foot - 24;
      return [...capacitor(x, top, foot), line(`M${x} ${top}H${x + 24}`), ...gap(x + 12, top, 3)];
    }),
    line('M86 40H94V44M56 40H62M50 64H62'),
  ],
  discharge: [
    line('M26 66V46m0 -6V20H60M26 66H60'),
    plates(26, 43),
    line('M60 20l26 14M60 66V58', 1.6),
    over(`M84 30l18 10l-4 7l-18 -10z`),
  ],
  design: [
    // Designs by what they cost and hold: some along the edge, others behind it.
    line('M20 12V68H108', 1.8),
    line('M28 22C34 44 52 56 98 60', 1.8),
    ...[
      [29, 24],
      [39, 44],
      [60, 55],
      [92, 60],
    ].map(([x = 0, y = 0]) => ({ d: circle(x, y, 3.4), fill: 'line' as const })),
    ...[
      [56, 26],
      [76, 40],
      [92, 24],
    ].map(([x = 0, y = 0]) => over(circle(x, y, 3.2))),
  ],
  sum: [
    line('M24 24h20m-10 -10v20M76 24h20M26 50l16 16m0 -16l-16 16M76 58h20'),
    { d: circle(86, 50, 1.8), fill: 'line' },
    { d: circle(86, 66, 1.8), fill: 'line' },
  ],
} satisfies Readonly<Record<string, readonly Stroke[]>>;
