export interface Databases {
  appUrl: string;
  ownerUrl: string;
}
export interface Application {
  address: string;
  stop: () => Promise<void>;
}
/** Starts the application as npm start runs it, on this database and a free port. Resolves once it serves; throws when it ends before. */
export function startApplication(databases: Databases): Promise<Application>;
