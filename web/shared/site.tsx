import { createContext, use, useState, type ReactNode } from 'react';

interface ChosenSite {
  /** Undefined means all sites. */
  siteId: number | undefined;
  choose: (siteId: number | undefined) => void;
}

const SiteContext = createContext<ChosenSite>({ siteId: undefined, choose: () => undefined });
const kept = 'larder.site';

/** The site the person works at, kept for next time. */
export function SiteProvider({ children }: { children: ReactNode }) {
  const [siteId, setSiteId] = useState<number | undefined>(() => Number(localStorage.getItem(kept)) || undefined);
  const choose = (next: number | undefined) => {
    localStorage.setItem(kept, String(next ?? ''));
    setSiteId(next);
  };
  return <SiteContext value={{ siteId, choose }}>{children}</SiteContext>;
}

export const useSite = () => use(SiteContext);
