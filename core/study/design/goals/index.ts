import type { DesignGoal } from '../goal.ts';
import { fieldGoal } from './field.ts';
import { launchGoal } from './launch.ts';
import { pulseGoal } from './pulse.ts';
import { storeGoal } from './store.ts';

/** What can be wanted, in the order in which it is offered. */
export const designGoals: readonly DesignGoal[] = [storeGoal, fieldGoal, launchGoal, pulseGoal];

export const designGoal = (id: string): DesignGoal | null => designGoals.find((goal) => goal.id === id) ?? null;
