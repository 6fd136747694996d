import type { ErrorRequestHandler, Response } from 'express';
import { faultMessages, faults, type Fault, type FaultCode } from '@vast-surge/contract';
import { GateShut } from '../db/gate.ts';
import { isBusy, isDatabaseAway, isDiskFull, isTaken } from '../db/pool.ts';
import { KeyReused } from '../db/transaction.ts';

/** A failure that the caller is told about, from the one catalogue in the contract. */
export class HttpFault extends Error {
  readonly code: FaultCode;
  readonly fields: Fault['fields'];
  constructor(code: FaultCode, fields: Fault['fields'] = [], message: string = faultMessages[code]) {
    super(message);
    this.name = 'HttpFault';
    this.code = code;
    this.fields = fields;
  }
}

/** Errors of the body parser, by their `type`. */
const parserFaults: Readonly<Record<string, FaultCode>> = {
  'entity.too.large': 'too_large',
  'entity.parse.failed': 'bad_json',
  'encoding.unsupported': 'unsupported_type',
  'charset.unsupported': 'unsupported_type',
  'request.size.invalid': 'bad_json',
  'request.aborted': 'bad_json',
  'entity.verify.failed': 'bad_json',
};

function toFault(error: unknown): HttpFault {
  if (error instanceof HttpFault) return error;
  if (error instanceof KeyReused) return new HttpFault('key_reused');
  if (isTaken(error))
    return new HttpFault('conflict', [], 'Something in this request has an id that is here already; nothing was written.');
  if (error instanceof GateShut) return new HttpFault('restoring');
  if (isDiskFull(error)) return new HttpFault('disk_full');
  if (isBusy(error)) return new HttpFault('busy');
  if (isDatabaseAway(error)) return new HttpFault('database_away');
  const { type, status } = (typeof error === 'object' && error !== null ? error : {}) as { type?: unknown; status?: unknown };
  const code = typeof type === 'string' ? parserFaults[type] : undefined;
  if (code) return new HttpFault(code);
  return new HttpFault(status === 400 ? 'bad_input' : 'internal');
}

export const sendFault = (res: Response, { code, message, fields }: HttpFault) => {
  const body: Fault = { code, message, fields };
  // When it is worth asking again, in seconds.
  if (faults[code] === 503) res.set('Retry-After', code === 'restoring' ? '5' : '2');
  res.status(faults[code]).json(body);
};

/** Every throw ends here: the caller gets a coded fault and no stack, the log gets the cause. */
export const faultHandler: ErrorRequestHandler = (error, req, res, next) => {
  const fault = toFault(error);
  if (fault.code === 'internal') req.log.error({ err: error }, 'request failed');
  if (res.headersSent) {
    next(error);
    return;
  }
  sendFault(res, fault);
};
