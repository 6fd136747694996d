import { defineBlock } from '../../block/define.ts';
import type { StepSpec } from '../../block/context.ts';
import { permanentBleeder, type permanentBleederFields } from './permanent-bleeder.ts';
import { bleederCircuit, bleederSteps } from './shared.ts';
import { bleedDesk } from './desks.ts';
import { relayDownGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'bleeder/switched': typeof permanentBleederFields;
  }
}

const holdOff: StepSpec = {
  id: 'bleeder-hold',
  phase: 'charge',
  text: 'Hold the bleeder off from outside the guard: its relay is held from here on, and connects it when its power fails.',
  hold: 'It is shown to be off.',
  does: 'hold-off',
};

/** A bleeder that is held off for the charge and the shot, so that it costs no voltage, and falls in by itself when power fails. */
export const switchedBleeder = defineBlock({
  ...permanentBleeder,
  kind: 'switched',
  desks: [bleedDesk],
  glyph: () => relayDownGlyph,
  title: 'Bleeder behind a relay that closes when power fails',
  offers: (own) => ({ ...permanentBleeder.offers(own), isSwitched: true }),
  circuit: (own, rig, at, scene) => (scene.of === 'bleed' ? bleederCircuit(own, rig, at, scene) : []),
  problems: () => [
    {
      severity: 'warning',
      slot: 'bleeder',
      text: 'A relay that sticks off is no bleeder at all: do not count on it, and try it before every charge.',
    },
  ],
  steps: (_own, rig) => [holdOff, ...bleederSteps(rig)],
});
