import Button from '@mui/material/Button';
import type { transferFigures } from '@larder/contract/transfers';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useReferenceQuery } from '../../shared/reference';
import { useSay } from '../../shared/say';
import { useSite } from '../../shared/site';
import { useCreateTransferMutation, useTransferFiguresQuery } from './api';
import { proposedLine, quantityBy, type TransferDraft } from './transferForm';
import { TransferSheet } from './TransferSheet';

/** A new transfer; of items that were chosen elsewhere, or for lines of orders that are short, with the site that could give most of it. */
export function TransferNewPage() {
  useTitle('New transfer');
  const [search] = useSearchParams();
  const idOf = (name: string) => Number(search.get(name)) || undefined;
  const [items, salesLines] = [search.get('items') ?? '', search.get('lines') ?? ''];
  const asked = items !== '' || salesLines !== '';
  const { siteId } = useSite();
  /** What was proposed of each of the items, in their order. */
  const [quantities] = useState(
    () => new Map((search.get('quantities') ?? '').split(',').map((many, index) => [Number(items.split(',')[index]), many] as const)),
  );
  // Only at first: what is typed on it is the page's from then on.
  const [query] = useState({ fromSiteId: idOf('from'), toSiteId: idOf('to'), items, salesLines });
  const { data: me, error } = useMeQuery({});
  const { data: reference } = useReferenceQuery({});
  const { data: figures, error: unknown } = useTransferFiguresQuery({ query }, { skip: !asked });
  const sites = (reference?.sites ?? []).map(({ id }) => id);
  const isKnown = reference !== undefined && (!asked || figures !== undefined);
  const ends = endsOf(query, figures, salesLines !== '', siteId, sites);
  // What is free is known only once it is said where it comes from.
  const there = { ...query, fromSiteId: ends.fromSiteId ?? undefined, toSiteId: ends.toSiteId ?? undefined };
  const { data: proposed } = useTransferFiguresQuery({ query: there }, { skip: !asked || !isKnown });
  if (!me || !isKnown || (asked && !proposed)) return <Waiting error={error ?? unknown} />;
  return <Sheet figures={proposed} today={me.company.today} ends={ends} quantities={quantities} />;
}

type Figures = ResponseOf<typeof transferFigures>;
interface Ends {
  fromSiteId: number | null;
  toSiteId: number | null;
}

/** From where to where: as it was said; else to where it is short from the site that can give most, or away from the site that is looked at. */
function endsOf(
  said: { fromSiteId: number | undefined; toSiteId: number | undefined },
  figures: Figures | undefined,
  isShort: boolean,
  here: number | undefined,
  sites: readonly number[],
): Ends {
  const toSiteId = said.toSiteId ?? figures?.rows.find((row) => row.toSiteId !== null)?.toSiteId ?? null;
  const gives = figures?.sites.find((site) => site.siteId !== toSiteId)?.siteId;
  const fromSiteId = said.fromSiteId ?? (isShort ? gives : (here ?? gives)) ?? null;
  const others = sites.filter((id) => id !== fromSiteId);
  return { fromSiteId, toSiteId: toSiteId ?? (fromSiteId !== null && others.length === 1 ? (others[0] as number) : null) };
}

interface SheetProps {
  figures: Figures | undefined;
  today: string;
  ends: Ends;
  quantities: ReadonlyMap<number, string>;
}

function Sheet({ figures, today, ends, quantities }: SheetProps) {
  const navigate = useNavigate();
  const say = useSay();
  const [create] = useCreateTransferMutation();
  const came: TransferDraft = {
    ...ends,
    sendBy: today,
    expectedOn: undefined,
    carrierId: null,
    tracking: '',
    note: '',
    // What nobody is short of is one of each, until somebody says another.
    lines: (figures?.rows ?? []).map((row) => ({
      ...proposedLine(row),
      quantity: quantities.get(row.itemId) || quantityBy('short', row) || (row.salesLineId === null ? '1' : ''),
    })),
  };
  return (
    <TransferSheet
      one={null}
      came={came}
      today={today}
      send={(body) => create({ body })}
      done={({ id, number }) => {
        say({ text: `${number ?? ''} is written: what is free is reserved for it.` });
        void navigate(`/stock/transfers/${id ?? ''}`, { replace: true });
      }}
    >
      <Button component={Link} to="/stock/transfers">
        All transfers
      </Button>
    </TransferSheet>
  );
}
