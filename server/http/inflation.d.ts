declare module 'inflation' {
  import type { IncomingMessage } from 'node:http';
  import type { Readable } from 'node:stream';
  /** The stream unpacked as its Content-Encoding says; throws an error with status 415 for one it does not know. */
  export default function inflate(request: IncomingMessage): Readable;
}
