import { register } from 'tsx/esm/api';
import type { Plugin } from 'vite';

/** What a page needs of an endpoint to ask it; what its bodies and answers look like is for the compiler, and for who checks a form. */
const known = ['method', 'path', 'posts', 'reads', 'file', 'shows', 'changes'];
const marked = '?without-schemas';

/** Each module is run once, however many pages import it. */
const { import: run } = register({ namespace: 'contract' });
const runOf = async (path: string) => (await run(path, import.meta.url)) as Record<string, unknown>;

const isEndpoint = (value: unknown): boolean => typeof value === 'object' && value !== null && 'summary' in value && 'response' in value;
const isPlain = (value: unknown): boolean => ['string', 'number', 'boolean'].includes(typeof value) || (Array.isArray(value) && value.every(isPlain));

/** A module of the contract as a script that holds its endpoints without schemas, and its lists of words. */
function written(module: Record<string, unknown>): string {
  const kept = (value: object) => Object.fromEntries(Object.entries(value).filter(([name]) => known.includes(name)));
  return Object.entries(module)
    .filter(([, value]) => isEndpoint(value) || isPlain(value))
    .map(([name, value]) => `export const ${name} = ${JSON.stringify(isEndpoint(value) ? kept(value as object) : value)};`)
    .join('\n');
}

/**
 * Pages that import a module of the contract get its endpoints without their schemas, so that nobody fetches those to look at a page. Who checks what is
 * typed imports the same module when it is first needed, `import('…')`, and gets the whole of it.
 */
export const withoutSchemas = (): Plugin => ({
  name: 'contract-without-schemas',
  enforce: 'pre',
  resolveId: {
    filter: { id: /^@larder\/contract\// },
    async handler(source, importer, { kind }: { kind?: string }) {
      const found = kind === 'dynamic-import' ? null : await this.resolve(source, importer, { skipSelf: true });
      if (!found) return null;
      return Object.values(await runOf(found.id)).some(isEndpoint) ? found.id + marked : found;
    },
  },
  load: {
    filter: { id: /\?without-schemas$/ },
    async handler(id) {
      const path = id.slice(0, -marked.length);
      this.addWatchFile(path);
      return written(await runOf(path));
    },
  },
});
