import type { Desk } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface DeskRoutes {
    erection: true;
    stages: true;
  }
}

export const erectionDesk: Desk = {
  route: 'erection',
  group: 'physics',
  place: 10,
  title: 'Erection',
  says: 'Erection: does it fire, and its window',
  words: ['marx', 'misfire', 'overvoltage', 'window', 'fires', 'erect', 'stages', 'pre-fire', 'jitter'],
  about:
    'Whether a Marx erects, gap by gap: overvoltage factors, charge left in the stages, and from 200 scattered shots the charge voltages between which it neither misfires nor pre-fires.',
  of: 'a Marx generator',
  picture: 'erection',
};

export const stagesDesk: Desk = {
  route: 'stages',
  group: 'physics',
  place: 20,
  title: 'Stages',
  says: 'Stages: charge, fired early, bleeding',
  words: ['marx', 'ladder', 'charge', 'stage', 'tower'],
  about:
    'How full each stage of a Marx is when fired early, what comes out, what each stage holds and its voltage to earth, how long each takes to bleed; one tower or two of opposite polarity.',
  of: 'a Marx generator',
};
