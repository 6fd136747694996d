/** A page that is reached from anywhere. Tabs, keys, finder and the list of keys come from here. */
export interface PlaceOfPage {
  readonly id: string;
  readonly title: string;
  readonly path: string;
  /** The letter behind `g` that goes there. */
  readonly key?: string;
  /** By what else it is looked for. */
  readonly words: readonly string[];
}

export const placesOfPages: readonly PlaceOfPage[] = [
  { id: 'start', title: 'Start something', path: '/start', key: 'n', words: ['new', 'rig', 'begin'] },
  {
    id: 'design',
    title: 'Design from a goal',
    path: '/design',
    words: [
      'what to build',
      'best bank',
      'optimise',
      'budget',
      'bill of materials',
      'shelf',
      'pareto',
      'tesla',
      'speed',
      'pulse',
    ],
  },
  { id: 'parts', title: 'Parts bench', path: '/parts', key: 'p', words: ['shelf', 'capacitors', 'import', 'csv'] },
  { id: 'lots', title: 'Lots', path: '/parts/lots', words: ['salvage', 'yield', 'worth', 'purchase'] },
  {
    id: 'composer',
    title: 'Compose a bank of parts',
    path: '/parts/composer',
    words: ['arrangement', 'series', 'parallel', 'serpentine sort'],
  },
  { id: 'home-made', title: 'Home-made capacitors', path: '/parts/home-made', words: ['bottle', 'foil', 'rolled', 'plate'] },
  {
    id: 'discharge',
    title: 'Discharge a capacitor',
    path: '/discharge',
    words: ['bleed', 'short', 'empty', 'resistor', 'bench', 'motor capacitor'],
  },
  { id: 'backups', title: 'Backups', path: '/backups', words: ['restore', 'archive', 'schedule', 'export', 'disk'] },
  {
    id: 'opening',
    title: 'Other devices',
    path: '/opening',
    words: ['network', 'phone', 'tablet', 'open', 'workshop', 'certificate', 'TLS', 'share', 'accounts'],
  },
  {
    id: 'people',
    title: 'People',
    path: '/people',
    words: ['accounts', 'roles', 'invite', 'devices', 'key holder', 'reader', 'guest'],
  },
  { id: 'audit', title: 'Audit', path: '/audit', words: ['who did what', 'record', 'log', 'history of acts'] },
  {
    id: 'account',
    title: 'Your account',
    path: '/account',
    words: ['password', 'sign out', 'sign in', 'device', 'privacy', 'name'],
  },
  { id: 'rigs', title: 'All rigs', path: '/rigs', key: 'r', words: ['list', 'import', 'archived', 'home'] },
  { id: 'runs', title: 'Runs and rehearsals', path: '/runs', key: 'u', words: ['run', 'rehearse', 'live'] },
  {
    id: 'shots',
    title: 'Shots',
    path: '/shots',
    key: 'o',
    words: ['shot log', 'shot book', 'measured', 'oscilloscope', 'scope', 'series'],
  },
  { id: 'sums', title: 'Sums', path: '/sums', key: 's', words: ['formula', 'calculate'] },
  {
    id: 'evidence',
    title: 'Evidence',
    path: '/evidence',
    key: 'e',
    words: ['accuracy', 'source', 'checked', 'error', 'trust', 'proof', 'validation'],
  },
  { id: 'guide', title: 'Walk-throughs', path: '/guide', words: ['guide', 'tutorial', 'first', 'help', 'how to'] },
  {
    id: 'units',
    title: 'Units',
    path: '/units',
    words: ['inches', 'imperial', 'metric', 'psi', 'bar', 'gauge', 'AWG', 'comma', 'decimal', 'settings', 'preferences'],
  },
  { id: 'glossary', title: 'Glossary', path: '/glossary', words: ['terms', 'words', 'meaning'] },
];

const goKeys = placesOfPages.filter(({ key }) => key !== undefined);

/** Every key with what it does, in the order of the list. */
export const keys: readonly (readonly [key: string, what: string])[] = [
  ['?', 'this list'],
  ['Ctrl K', 'find any page, part, rig, run, shot, sum, term or action'],
  ['Ctrl Z', 'undo; with Shift, redo'],
  ['Ctrl S', 'save a revision of the rig'],
  [goKeys.map(({ key }) => `g ${key}`).join(', '), goKeys.map(({ title }) => title.toLowerCase()).join(', ')],
  ['Space, Esc Esc', 'in a run: the one action of the step; abort'],
  ['b, m', 'in a run: back one step; sound and voice on or off'],
  ['[ and ]', 'the block before and after, on a rig'],
  ['w', 'open or close the working of the number last touched'],
  ['p', 'pin that number to the top of its rig, or take it off'],
  ['f', 'all figures of a rig, or the first few'],
  ['Esc', 'close the working; in a field, take back what was typed'],
  ['↑ ↓ in a field', 'the next preferred value (E12), or one more and one less'],
  ['Alt ↑ ↓ in a field', 'one per cent more or less'],
  ['l', 'in a campaign: what the next shot came to'],
  ['/', 'the filter of the shelf'],
  ['↑ ↓, Space, Enter', 'on the shelf: move, choose, open; Delete takes off'],
  ['↑ ↓, Home, End', 'in a list of rigs or runs: from row to row'],
  ['n, m', 'on the shelf: new parts; measure'],
  ['1 2 3 4', 'charge, discharge, bleed, and a running Tesla coil, on a rig'],
  ['Tab', 'every field, block and number in turn'],
];
