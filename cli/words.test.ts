import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';
import { describe, expect, test } from 'vitest';

const root = fileURLToPath(new URL('..', import.meta.url));

/** Phrases that nobody in the field would say, in the use in which they were retired. What is found next is added here. */
const retired: readonly RegExp[] = [
  /\bnought\b/i,
  /\b(take|taken|takes) (it|every stage|all of them|the store) for charged\b/i,
  /\b(Dc|Ac) rating\b/,
  /(Capacitance|Resistance|ESR|ESL|Insulation|Power rating|Pulse energy|Body length|DC rating) of one$/,
  /, (voltage|power|heat|energy|current|temperature rise) of one\b/,
  /Shots one is rated for/i,
  /\bat worst$|^at worst|, at worst\b/,
  /Highest share of the voltage/i,
  /Stands? on no part/i,
  /Highest voltage it may see/i,
  /default, not typed/i,
  /does not do what it should/i,
  /Hardly:|Hardly ever fires/,
  /firing by (itself|themselves)/i,
  /\bgaps? (fires|fired|has fired) by itself/i,
  /Used to a share of|The moment may be off by|They turn on within/,
  /Diameter of their balls|Field its surface bears/,
  /\bpre-fires nor misses/i,
  /Turn it (in|out)\b/,
  /modes of the ladder/i,
  /fired sooner/i,
  /Warmer (after one|in a long)/,
  /From (turn|layer) to (turn|layer)/i,
  /Wire there is|Wire on it/,
  /leaves with/i,
  /\bnot told\b/i,
  /of it into motion/i,
  /\bIts (beat|front)\b/,
  /so many times one/i,
  /Rise its electrodes bear|Time it conducts at a break/,
  /Breaks a second/i,
  /Draw the scatter anew/i,
  /\b(direct|alternating) (supply|voltage)\b/i,
  /Held against a published rule/i,
  /What comes back/,
  /back to back/i,
  /\bLies at\b|What stands on it/,
  /Take the lot away/i,
  /dealt to and fro/i,
  /Uneven groups cost/i,
  /as gauged/i,
  /ears and eyes covered/i,
  /Call everybody back|Said and not there|One step back/,
  /keeps nothing any more/i,
  /Close a revision|Closed as revision/,
  /by another hand and merged/i,
  /Nothing has these words/i,
  /drawn out:/i,
  /stayed cold/i,
  /second capacitor/i,
  /tank that runs/i,
  /discharge tool|resistor tool|the tool (goes|stays|once)|[Tt]ake the tool off/i,
  /charging resistor bears$|supply can feed/i,
  /were held against something|^Held against/i,
  /fires by itself\.?$/i,
  // What a translation says: things that bear, want, hang or are taken for something.
  /\b(bears?|borne)\b(?! in mind)/,
  /\bis reckoned with\b|to be reckoned with/,
  /\btaken? (it |this rig |the store )?for (open|deadly|bridged|fully charged)\b/,
  /what is launched|What is moved|Mass that is moved/i,
  /\bturn the gaps? (in|out)\b/i,
  /goes over in\b|goes over whole/,
  /\b(Taken back|Done again):/,
  /[Tt]ake it (off the bench|into the (rig|gap))/,
  /Bring in \{|[Bb]ring it in\b|taken in; nothing/,
  /record of a scope/i,
  /what is aimed at/i,
  /\bmeter may see\b/,
  /\bgives back\b/,
  /\bOne does not\b/,
  /more than it may see/,
  /is no (spark gap|coil|switch|text|coilgun)\b/,
  /next to (nothing|none) (at|of|in)\b/,
  // It informs and protects nobody: what is calculated, and what to verify with which meter, is said instead.
  /\bsafe(ly|r)?\b/i,
];

/** Texts of a file of the program that somebody may read: everything quoted that is no id, path or class. */
function textsOf(path: string, source: string): string[] {
  const file = ts.createSourceFile(
    path,
    source,
    ts.ScriptTarget.Latest,
    true,
    path.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
  );
  const found: string[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node)) return;
    const isText =
      ts.isStringLiteral(node) ||
      ts.isNoSubstitutionTemplateLiteral(node) ||
      ts.isTemplateHead(node) ||
      ts.isTemplateMiddle(node) ||
      ts.isTemplateTail(node) ||
      ts.isJsxText(node);
    if (isText) {
      const text = node.text.replace(/\s+/g, ' ').trim();
      if (/\s/.test(text)) found.push(text);
    }
    ts.forEachChild(node, visit);
  };
  visit(file);
  return found;
}

const isOwn = (path: string) =>
  /\.(ts|tsx)$/.test(path) && !/\.(test|spec|stories)\.|(^|\/)(test|node_modules|dist|\.storybook)\//.test(path);

const filesIn = (folder: string): string[] =>
  readdirSync(`${root}${folder}`, { recursive: true, encoding: 'utf8', withFileTypes: false })
    .map((name) => `${folder}/${name.replaceAll('\\', '/')}`)
    .filter(isOwn);

const retiredIn = (text: string): string[] => retired.flatMap((phrase) => phrase.exec(text)?.[0] ?? []);

describe('the words of the program', () => {
  test.each(['core', 'contract', 'server', 'web', 'cli'])('in %s none is a phrase that was retired', (room) => {
    const files = filesIn(room);
    expect(files.length).toBeGreaterThan(5);
    const said = files.flatMap((path) =>
      textsOf(path, readFileSync(`${root}${path}`, 'utf8')).flatMap((text) =>
        retiredIn(text).map((phrase) => `${path}: “${phrase}” in “${text.slice(0, 120)}”`),
      ),
    );
    expect(said).toEqual([]);
  });

  test('none stands in the documents, the README and what the demo says', () => {
    const documents = [
      'README.md',
      ...readdirSync(`${root}docs`).flatMap((name) => (name.endsWith('.md') ? [`docs/${name}`] : [])),
      ...readdirSync(`${root}docs/guide`).map((name) => `docs/guide/${name}`),
      ...readdirSync(`${root}demo`).flatMap((name) => (name.endsWith('.json') ? [`demo/${name}`] : [])),
    ];
    const said = documents.flatMap((path) =>
      readFileSync(`${root}${path}`, 'utf8')
        .split('\n')
        .flatMap((line, i) => retiredIn(line).map((phrase) => `${path}:${i + 1}: “${phrase}”`)),
    );
    expect(said).toEqual([]);
  });

  test('a phrase that comes back is found, wherever it is quoted, and code that only looks like one is not', () => {
    const code = [
      "const a = 'The store is at nought now';",
      'const b = `take it for charged, ${a}`;',
      'const c = <p>Draw the scatter anew</p>;',
      "import x from './second capacitor.ts';",
      "const id = 'nought';",
    ].join('\n');
    expect(textsOf('a.tsx', code).flatMap(retiredIn)).toEqual(['nought', 'take it for charged', 'Draw the scatter anew']);
  });
});
