import { readFileSync, statSync } from 'node:fs';
import { Command, CommanderError } from 'commander';
import { evaluateRig } from '@vast-surge/core/evaluation';
import { netlistLimit } from '@vast-surge/core/circuit';
import { campaignFileLimit, readRigFile, rigFileLimit, wordFileIssue } from '@vast-surge/core/format';
import type { RigDocument } from '@vast-surge/core/rig';
import { designBounds, designGoals, leastSamples, mostSamples } from '@vast-surge/core/study';
import { oneCapacitorDielectrics, runSheetMarkdown, runSheetOf } from '@vast-surge/core/runsheet';
import { dischargeOne, type DischargeOptions } from './discharge.ts';
import { calculate } from './calc.ts';
import { composeBank, composeJson, composeText, type ComposeOptions } from './compose.ts';
import { bleedDesk, faultsDesk, erect, gapDesk, launchDesk, teslaDesk, type Desk } from './desks.ts';
import { evaluationJson, evaluationText } from './evaluate.ts';
import { campaignText, type CampaignOptions } from './campaign.ts';
import { expectNext, readShots } from './expect.ts';
import { formulasJson, formulasText } from './formulas.ts';
import { design, type DesignOptions } from './design.ts';
import { readPieces, readShelf } from './parts.ts';
import { planText, type PlanOptions } from './plan.ts';
import { rehearse, type RehearseOptions } from './rehearse.ts';
import {
  rigNetlist,
  simulatedJson,
  simulatedText,
  simulateText,
  writeText,
  writeTraces,
  type SimulateOptions,
} from './simulate.ts';
import { study, type StudyOptions } from './study.ts';
import { UsageError } from './usage.ts';

/** Where the terminal's words go. */
export interface Output {
  out(text: string): void;
  err(text: string): void;
}

/** Far above any table of parts that can be composed. */
const partsFileLimit = 32 * 1024 * 1024;
const shotsFileLimit = 32 * 1024 * 1024;

/** A whole file as text. @throws UsageError under `name` where it is too large or cannot be read */
function readFile(path: string, name: string, limit: number): string {
  try {
    if (statSync(path).size > limit)
      throw new UsageError(`${name}: the file is larger than any that is read here (${limit} bytes).`);
    return readFileSync(path, 'utf8');
  } catch (error) {
    if (error instanceof UsageError) throw error;
    throw new UsageError(`${name}: ${path} cannot be read: ${error instanceof Error ? error.message : 'no reason given'}`);
  }
}

function readRig(path: string): RigDocument {
  const read = readRigFile(readFile(path, 'RIG.json', rigFileLimit * 4));
  if (!read.ok) throw new UsageError(read.issues.map(wordFileIssue).join('\n'));
  return read.document;
}

interface DeskOptions {
  readonly json?: boolean;
  readonly shots: string;
  readonly seed: string;
}

/** @throws UsageError naming the option and its range */
function wholeNumber(name: string, text: string, least: number, most: number): number {
  const value = Number(text);
  if (Number.isInteger(value) && value >= least && value <= most) return value;
  throw new UsageError(`${name} is "${text.slice(0, 40)}"; it must be a whole number from ${least} to ${most}`);
}

function program({ out, err }: Output): Command {
  const print = (text: string) => out(text.endsWith('\n') ? text : `${text}\n`);
  const json = (value: unknown) => print(JSON.stringify(value, null, 2));
  const surge = new Command('surge')
    .description('Sums and rigs from the terminal. Numbers are calculated, not promised: verify with a meter.')
    .configureOutput({ writeOut: out, writeErr: err })
    .exitOverride();
  surge
    .command('calc')
    .description('one formula: surge calc stored-energy C=3900u V=46')
    .argument('<id>', 'formula id, as listed by surge formulas')
    .argument('[values...]', 'SYMBOL=QUANTITY, as in C=4u7 or V="1.2 kV"')
    .option('--solve <symbol>', 'solve for this input; give the result as SYMBOL=QUANTITY instead')
    .option('--json', 'JSON in SI units')
    .action((id: string, values: string[], options: { solve?: string; json?: boolean }) => {
      const answer = calculate(id, values, options.solve);
      if (options.json) json(answer.data);
      else print(answer.text);
    });
  surge
    .command('formulas')
    .description('all formulas with their symbols')
    .option('--json', 'JSON')
    .action((options: { json?: boolean }) => {
      if (options.json) json(formulasJson());
      else print(formulasText());
    });
  surge
    .command('evaluate')
    .description('figures, limits and problems of a rig file')
    .argument('<rig>', 'rig file')
    .option('--json', 'JSON in SI units')
    .action((path: string, options: { json?: boolean }) => {
      const document = readRig(path);
      const evaluation = evaluateRig(document.rig);
      if (options.json) json(evaluationJson(document, evaluation));
      else print(evaluationText(document, evaluation));
    });
  surge
    .command('runsheet')
    .description('the discharge run sheet of a rig file, as Markdown')
    .argument('<rig>', 'rig file')
    .action((path: string) => {
      const document = readRig(path);
      const made = runSheetOf(document.name, evaluateRig(document.rig), document.sheet);
      if (!made.ok) throw new UsageError(`No run sheet can be made of this rig. ${made.reason}`);
      print(runSheetMarkdown(made.sheet));
    });
  const desk = (name: string, description: string, answer: (document: RigDocument, options: DeskOptions) => Desk) =>
    surge
      .command(name)
      .description(description)
      .argument('<rig>', 'rig file')
      .option('--json', 'JSON in SI units')
      .option('--shots <count>', 'of erect: seeded shots for its window', '60')
      .option('--seed <number>', 'of tesla-coil: for the scatter of the gap', '1')
      .action((path: string, options: DeskOptions) => {
        const { data, text } = answer(readRig(path), options);
        if (options.json) json(data);
        else print(text);
      });
  desk('erect', 'a Marx generator: whether it erects, gap by gap, its window, and the shot', (document, { shots }) =>
    erect(document, wholeNumber('--shots', shots, 1, 2000)),
  );
  desk('launch', 'a coilgun: muzzle speed, verdict, energy and trace', (document) => launchDesk(document));
  desk('gap', 'a spark gap: self-break, how well it is known, and what to set', (document) => gapDesk(document));
  desk('bleed', 'bleed-down: every way, its worst case, what keeps a charge', (document) => bleedDesk(document));
  desk('faults', 'every part failing in turn: energy, what the others carry, what is left, what contains it', (document) =>
    faultsDesk(document),
  );
  desk('tesla-coil', 'a Tesla coil: break rate, verdict, tuning and figures', (document, { seed }) =>
    teslaDesk(document, wholeNumber('--seed', seed, 0, 4294967295)),
  );
  surge
    .command('discharge')
    .description('one capacitor on the bench: what it can do to a person, which resistor, how long, what to read, as Markdown')
    .requiredOption('--C <farads>', 'capacitance, as in 470u or "1 mF ±20 %"')
    .requiredOption('--V <volts>', 'voltage it may hold')
    .option('--R <ohms>', 'resistor at hand; left out, one is proposed')
    .option('--meter <volts>', 'maximum input of the meter', '600')
    .option('--dielectric <name>', `one of ${oneCapacitorDielectrics.map(({ value }) => value).join(', ')}`, 'unknown')
    .option('--json', 'JSON in SI units')
    .action((options: DischargeOptions & { json?: boolean }) => {
      const { data, text } = dischargeOne(options);
      if (options.json) json(data);
      else print(text);
    });
  surge
    .command('rehearse')
    .description('play the run sheet of a rig file through the simulated rig, as written, in human seconds')
    .argument('<rig>', 'rig file')
    .option('--pace <seconds>', 'seconds for every human act, 2 to 60; holds keep theirs')
    .option('--fault <name>', 'a fault to put in; may be repeated', (name: string, all: string[]) => [...all, name], [])
    .option('--seed <number>', 'for what is drawn: when somebody comes, where a gap fires early', '1')
    .option('--json', 'JSON in SI units')
    .action((path: string, options: RehearseOptions & { json?: boolean }) => {
      const { data, text } = rehearse(readRig(path), options);
      if (options.json) json(data);
      else print(text);
    });
  const several = (text: string, all: string[]) => [...all, text];
  surge
    .command('plan')
    .description('a series of shots: settings, order, and what fits into the hours that people have')
    .argument('<rig>', 'rig file')
    .option('--vary <field>', 'as in "store.V0=30 V..37 V/5" or "switch.d=6 mm, 6.5 mm"; may be repeated', several, [])
    .option('--session <start>', 'as in "2026-12-05 10:00 3h / IW holds the key"; may be repeated', several, [])
    .option('--repeat <count>', 'shots at each setting', '3')
    .option(
      '--design <name>',
      'factorial, central-composite between the ends of each range, or next-best (each shot where it teaches the most)',
      'factorial',
    )
    .option('--order <name>', 'blocks (hands change little), rising (as listed), random, or latin (rounds)', 'blocks')
    .option('--seed <number>', 'for the order', '1')
    .option('--rest <time>', 'after each shot, for coils, resistors and electrodes to cool', '0 s')
    .option('--have <stock>', 'what is there of what the rig uses up, as in "load.wire=2 m"; may be repeated', several, [])
    .option(
      '--stock <text>',
      'what else a shot takes of what is there, as in "Foil=1 of 20 sheets"; may be repeated',
      several,
      [],
    )
    .option('--format <name>', 'markdown, csv, ics or json', 'markdown')
    .action((path: string, options: PlanOptions) => print(planText(readRig(path), options)));
  surge
    .command('study')
    .description('a rig asked many times: fields varied, tolerances scattered, or (with neither) what its figures depend on')
    .argument('<rig>', 'rig file')
    .option(
      '--vary <field>',
      'as in "store.V0=10 kV..20 kV/50", "… /50 log", "tool.R=1k..10k/E12", "load.d=24 AWG..18 AWG/AWG" or "store.V0=1 kV, 2 kV"; up to three',
      several,
      [],
    )
    .option('--scatter <samples>', `samples of the tolerances, ${leastSamples} to ${mostSamples}`)
    .option('--figures <ids>', 'what is asked, with commas: figures, limit:…, limit:tightest, solver:current', '')
    .option(
      '--goal <range>',
      'what is wanted of a figure, as in "peak-current=15 kA..20 kA": points that meet it, or the share of samples; may be repeated',
      several,
      [],
    )
    .option('--worst', 'of --vary: the goal holds over the tolerances too')
    .option('--distribution <name>', 'uniform within a tolerance, or normal with tolerance = 2σ', 'uniform')
    .option('--no-model', 'of --scatter: without the error that formulas say of themselves')
    .option('--no-shots', 'of --scatter: with gaps and triggers at their means, and not as they scatter from shot to shot')
    .option('--seed <number>', 'the same seed gives the same samples', '1')
    .option('--out <file>', 'every point or sample, .csv or .parquet, in SI units')
    .option('--json', 'JSON in SI units')
    .action((path: string, options: StudyOptions & { json?: boolean }) => {
      const { data, text } = study(readRig(path), options);
      if (options.json) json(data);
      else print(text);
    });
  surge
    .command('campaign')
    .description('what a campaign has come to: its report, its answer, and what is left of it in the hours that people have')
    .argument('<campaign>', 'campaign as its page saves it, JSON')
    .option('--session <start>', 'other hours for what is left, as in "2026-12-05 10:00 3h"; may be repeated', several, [])
    .option('--format <name>', 'markdown (the report), csv (a row for each shot), ics (what is left), or json', 'markdown')
    .action((path: string, options: CampaignOptions) =>
      print(campaignText(readFile(path, 'CAMPAIGN.json', campaignFileLimit), options, Date.now())),
    );
  surge
    .command('expect')
    .description('what the next shot is expected to be, from the shots so far, and whether the rig has changed')
    .argument('<rig>', 'rig file')
    .argument('<shots>', 'shots as the shot log saves them, JSON')
    .option('--json', 'JSON in SI units')
    .action((rig: string, shots: string, options: { json?: boolean }) => {
      const read = readShots(readFile(shots, 'SHOTS.json', shotsFileLimit));
      print(expectNext(readRig(rig), read, options.json === true));
    });
  surge
    .command('simulate')
    .description('run a circuit netlist, or a rig as one, and say what it does')
    .argument('<file>', 'netlist, .cir: one element per line; or a rig file, .json')
    .option(
      '--until <time>',
      'how long, such as 5m or 20 us; left out: as long as the .tran of the deck says, or as the scene of the rig takes',
    )
    .option('--tolerance <fraction>', 'error of one step; 1e-5 if left out')
    .option('--seed <number>', 'for the scatter of gaps')
    .option('--out <file>', 'write the traces as CSV')
    .option('--scene <scene>', 'of a rig: charge, discharge or bleed', 'discharge')
    .option('--cir <file>', 'of a rig: write its circuit as a netlist')
    .option('--json', 'JSON in SI units')
    .action((path: string, options: SimulateOptions & { json?: boolean; scene: string; cir?: string }) => {
      const isRig = path.toLowerCase().endsWith('.json');
      const text = isRig ? rigNetlist(readRig(path), options.scene) : readFile(path, 'FILE.cir', netlistLimit);
      if (options.cir !== undefined) writeText('--cir', options.cir, text);
      const made = simulateText(text, options);
      if (options.out !== undefined) writeTraces(options.out, made);
      if (options.json) json(simulatedJson(made));
      else print(simulatedText(made));
    });
  surge
    .command('compose')
    .description('assign measured capacitors to groups in series so that the bank withstands the highest voltage')
    .argument(
      '<parts>',
      'parts as the bench exports them, CSV or JSON; or a CSV table with a head: id, capacitance, rating, uncertainty',
    )
    .requiredOption('--voltage <quantity>', 'voltage to charge the bank to')
    .option('--energy <quantity>', 'energy to store at that voltage')
    .option('--margin <quantity>', 'margin between that voltage and what the bank withstands, such as 10%')
    .option('--filter <text>', 'of an export only these, as on the shelf: "film good C>30u"')
    .option('--ns <count>', 'groups in series, instead of the arrangement that meets the target')
    .option('--np <count>', 'capacitors in parallel in each group')
    .option('--json', 'JSON in SI units')
    .action((path: string, options: ComposeOptions & { filter?: string; json?: boolean }) => {
      const made = composeBank(readPieces(readFile(path, 'PARTS', partsFileLimit), options.filter ?? ''), options);
      if (options.json) json(composeJson(made));
      else print(composeText(made));
    });
  surge
    .command('design')
    .description('whole rigs from a goal, out of the shelf and of what can be bought, with their bills of materials')
    .argument('<goal>', `what is wanted: ${designGoals.map(({ id }) => id).join(', ')}`)
    .argument('[wish...]', "how much of it, such as 'B=4 T' 't=100 us' 'D=36 mm'; what is left out is as the page has it")
    .option(
      '--within <bound>',
      `a bound: ${Object.keys(designBounds).join(', ')}, as in 'energy=1 kJ'; may be repeated`,
      several,
      [],
    )
    .option('--worst', 'the goal holds over the tolerances too, as the bounds do')
    .option('--shelf <parts>', 'parts as the bench exports them, JSON: those found good are used first')
    .option('--most <count>', 'designs that are printed', '10')
    .option('--out <file>', 'write a design as a rig file')
    .option('--take <number>', 'which of them; the first if left out')
    .option('--json', 'JSON in SI units')
    .action((goal: string, wishes: string[], options: DesignOptions & { shelf?: string; json?: boolean }) => {
      const shelf = options.shelf === undefined ? [] : readShelf(readFile(options.shelf, 'PARTS', partsFileLimit));
      const made = design(goal, wishes, shelf, options);
      if (options.json) json(made.data);
      else print(made.text);
    });
  return surge;
}

/** The names of all commands. */
export const commandNames = (): string[] =>
  program({ out: () => undefined, err: () => undefined }).commands.map((command) => command.name());

/** Runs one command. @returns the exit code: 0, or 2 for anything the caller has to change */
export function run(args: readonly string[], output: Output): number {
  try {
    program(output).parse(args, { from: 'user' });
    return 0;
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
    if (error instanceof UsageError) {
      output.err(`surge: ${error.message}\n`);
      return 2;
    }
    throw error;
  }
}
