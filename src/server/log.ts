import pino from 'pino';
import { config } from './config';

/** Requests and faults, as JSON lines on standard error. SQL and its parameters never get here. */
export const log = pino({ level: config.LOG_LEVEL }, pino.destination(2));
