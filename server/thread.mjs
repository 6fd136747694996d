// What a worker thread of the server runs: it reads TypeScript as the server does, and calls one function of one module for each task.
import { register } from 'tsx/esm/api';

register();

/**
 * @param {{ module: string, call: string, task: unknown }} asked the address of a module, one of its functions, and what it is given
 * @returns {Promise<unknown>} what the function gave
 */
export default async function thread({ module, call, task }) {
  const found = await import(module);
  return found[call](task);
}
