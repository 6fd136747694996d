import { printDuration, printQuantity } from '../quantity/index.ts';
import type { Refusal } from './state.ts';

/** Why something had no effect, for the person who did it. */
export function refusalWords(refusal: Refusal): string {
  switch (refusal.code) {
    case 'not_begun':
      return 'The run has not begun: first say who runs it.';
    case 'begun':
      return 'The run has begun already.';
    case 'ended':
      return 'The run has ended.';
    case 'not_yours':
      return 'Another screen controls this run; this one watches. Take over first. An abort works from any screen.';
    case 'first_step':
      return 'This is the first step of its path.';
    case 'no_reading':
      return 'A reading is needed here before the run goes on.';
    case 'no_answer':
      return 'The second person has to answer here before the run goes on.';
    case 'not_verified':
      return 'No reading below the goal since the store could last have been charged: bleed it and read it first.';
    case 'not_strapped':
      return 'The strap is not on.';
    case 'not_isolated':
      return 'The charger has not been isolated since the last charge.';
    case 'no_outcome':
      return 'Say how the shot went.';
    case 'not_here':
      return 'That cannot be done at this step.';
    case 'wrong_pin':
      return 'That is not the PIN of the second person. The hold stands.';
    case 'not_asked':
      return 'Nobody asked for the key. Whoever takes over asks first.';
    case 'has_key':
      return 'This screen has the key already.';
    case 'key_unanswered':
      return `Who acts has ${printDuration(refusal.left)} more to answer.`;
    case 'other_step':
      return 'The run is at another step by now.';
    case 'too_early':
      return `Wait: ${printDuration(refusal.left)} are still to pass.`;
    case 'still_charged':
      return `Still charged: ${printQuantity(refusal.value, 'V')} is not below ${printQuantity(refusal.below, 'V')}. The stick goes on again.`;
    case 'far':
      return `${printQuantity(refusal.value, 'V')} is far from ${refusal.expected}. Read again; if it is correct, record it.`;
    default:
      return refusal satisfies never;
  }
}
