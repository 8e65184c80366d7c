/** Where PostgreSQL's programs are. */
export function postgresBin(): string;
/** The environment and first arguments of a program of PostgreSQL's that is to use this address: the password goes by the environment, never on the command line. */
export function withPassword(url: string): { env: NodeJS.ProcessEnv; parts: string[] };
