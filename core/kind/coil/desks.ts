import type { Desk } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface DeskRoutes {
    launch: true;
    better: true;
    coil: true;
  }
}

export const launchDesk: Desk = {
  route: 'launch',
  group: 'physics',
  place: 30,
  title: 'Launch',
  says: 'Launch: force, speed, where the energy goes',
  words: ['coilgun', 'speed', 'muzzle', 'force', 'timing', 'slug', 'launcher', 'projectile', 'energy'],
  about:
    'One stage or up to twelve, each with its own store, switch, coil and sensor: a slug of iron or a conducting sleeve, instant by instant, with saturation and suck-back, where the energy goes, what an error of the timing costs, recharge.',
  of: 'a coil that launches',
  picture: 'launch',
};

export const betterDesk: Desk = {
  route: 'better',
  group: 'design',
  place: 30,
  title: 'Better coil',
  says: 'Better coil: a search for the fastest',
  words: ['search', 'optimise', 'fastest', 'efficiency', 'design'],
  about:
    'A search on all cores for the greatest speed, efficiency, or the lowest peak current that reaches a speed, within limits; over wire, capacitance and voltage too; the trade-off of all designs tried; taken into the rig.',
  of: 'a coil that launches',
  picture: 'better',
};

export const coilDesk: Desk = {
  route: 'coil',
  group: 'design',
  place: 20,
  title: 'Coil',
  says: 'Coil: in section, its field, a winding card',
  words: ['winding', 'turns', 'field', 'inductance', 'magnet', 'solenoid'],
  about:
    'Former, wire, turns, layers or wire available: the coil in section to scale over its field, inductance turn by turn and by other formulas, resistance with skin effect, force on a slug by place and current, voltages, stress, heat, a winding card.',
  of: 'a coil as its load',
  picture: 'coil',
};
