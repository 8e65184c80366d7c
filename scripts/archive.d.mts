/** The addresses of a database on a server, by the role that asks. */
export interface DatabaseServer {
  url: (database?: string) => string;
  ownerUrl: (database?: string) => string;
  appUrl: (database?: string) => string;
}
export interface About {
  madeAt: string;
  newest: number;
  bytes: number;
  sha256: string;
}
export function backUp(server: DatabaseServer, database: string, path?: string): Promise<{ path: string; rows: number; bytes: number }>;
export function restore(server: DatabaseServer, database: string, path: string, replace: boolean): Promise<About>;
