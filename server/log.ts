import { pino, type Logger } from 'pino';

interface Said {
  type: string;
  message: string;
  stack: string;
  code?: string;
  constraint?: string;
  table?: string;
}

/** An error without what people had typed: statements and what was wrong, but no values. */
export function saidOf(error: unknown): Said {
  const { name = 'Error', message = '', stack = '', code, constraint, table, cause } = error as Error & { code?: string; constraint?: string; table?: string };
  const inner = cause instanceof Error ? saidOf(cause) : undefined;
  const withoutValues = (text: string) =>
    text
      .split('\nparams:')[0]
      ?.replace(/=\([^)]*\)/g, '=(…)')
      .replace(/invalid input syntax for type (\w+): ".*"/g, 'invalid input syntax for type $1') ?? '';
  const frames = stack.split('\n').filter((line) => line.startsWith('    at '));
  return {
    type: name,
    message: withoutValues(message),
    stack: frames.join('\n'),
    ...((code ?? inner?.code) === undefined ? {} : { code: code ?? inner?.code }),
    ...((constraint ?? inner?.constraint) === undefined ? {} : { constraint: constraint ?? inner?.constraint }),
    ...((table ?? inner?.table) === undefined ? {} : { table: table ?? inner?.table }),
  } as Said;
}

/** The log of the server and its threads: JSON lines, without passwords, cookies or the values of statements. */
export const makeLog = (): Logger => pino({ level: process.env.LOG_LEVEL ?? 'info', redact: ['req.headers.cookie', 'password'], serializers: { err: saidOf } });
