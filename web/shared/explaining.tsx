import { explainedCosts, explainedQuantities } from '@larder/contract/explain';
import { useEffect, type ReactNode } from 'react';
import { Link, useLocation } from 'react-router';
import { explainName, useChangeAsked } from '../kit/address';

/** Figures of an item that are explained. */
export const names = {
  onHand: 'On hand',
  reserved: 'Reserved',
  free: 'Free',
  short: 'Short',
  onOrder: 'On order',
  inTransit: 'In transit',
  unitCost: 'Unit cost',
  value: 'Value',
} as const;
export type Figure = keyof typeof names;
export const figures: readonly Figure[] = [...explainedQuantities, ...explainedCosts];

export interface Asked {
  figure: Figure;
  itemId: number;
  /** At which site, when it is not the one that the person works at. */
  siteId: number | undefined;
}
/** As the address has it. */
export const written = ({ figure, itemId, siteId }: Asked): string => [figure, itemId, ...(siteId === undefined ? [] : [siteId])].join('.');

/** The figure of an item that the address asks to have explained. */
export function askedFigure(asked: string): Asked | null {
  const [name, id, site] = asked.split('.');
  const figure = figures.find((one) => one === name);
  const [itemId, siteId] = [Number(id), Number(site) || undefined];
  return figure && Number.isInteger(itemId) && itemId > 0 ? { figure, itemId, siteId } : null;
}

/** The equals sign explains the figures of the item that is looked at, wherever no words are being typed. */
export function useExplainKey(itemId: number): void {
  const change = useChangeAsked();
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const isTyped = event.target instanceof HTMLElement && event.target.matches('input, textarea, select, [contenteditable]');
      if (event.key !== '=' || event.ctrlKey || event.metaKey || event.altKey || isTyped) return;
      event.preventDefault();
      change((search) => search.set(explainName, written({ figure: 'free', itemId, siteId: undefined })), { replace: false });
    };
    document.addEventListener('keydown', press);
    return () => document.removeEventListener('keydown', press);
  }, [itemId, change]);
}

interface ExplainedProps {
  itemId: number;
  figure: Figure;
  siteId?: number | undefined;
  className?: string;
  children: ReactNode;
}

/** A figure that is explained when it is pressed: the address of the page asks for it, so that going back closes it. */
export function ExplainedFigure({ itemId, figure, siteId, className = 'figure', children }: ExplainedProps) {
  const { search } = useLocation();
  const asked = new URLSearchParams(search);
  asked.set(explainName, written({ figure, itemId, siteId }));
  return (
    <Link className={className} to={`?${asked.toString()}`} title={`What ${names[figure].toLowerCase()} is made of`}>
      {children}
    </Link>
  );
}
