import Button from '@mui/material/Button';
import type { topUpFill, TopUpRow } from '@larder/contract/planning';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useState } from 'react';
import { useAddress } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { refusalOf } from '../../kit/draft';
import { count, money } from '../../kit/format';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { DraftsMade } from '../../shared/DraftsMade';
import { useMay, useMayAt } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useSite } from '../../shared/site';
import { StockPeek } from '../../shared/StockPeek';
import { useLazyTopUpFillQuery, useOrderTopUpMutation, useTopUpQuery } from './api';
import { PlanningWays } from './PlanningWays';
import { ProposalGroup } from './ProposalGroup';
import { belowMinimum, grouped, groupOf, keyOf } from './proposals';
import { PutOffForm } from './PutOffForm';

type Filling = ResponseOf<typeof topUpFill>['rows'][number];

/** Each item and site at or below its reorder point, with its arithmetic: what is brought, made and ordered. Chosen rows become transfers, planned work and purchase orders. */
export function TopUpPage() {
  useTitle('Top up');
  const { siteId } = useSite();
  const address = useAddress();
  const itemId = Number(address.get('item')) || undefined;
  const may = useMay('planning.top-up');
  const { data: me } = useMeQuery({});
  const [mayPlan, mayTransfer] = [useMayAt('making.plan'), useMayAt('stock.transfer')];
  const { data, error } = useTopUpQuery({ query: { siteId, itemId } });
  const [filling, setFilling] = useState<readonly Filling[]>([]);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [selected, setSelected] = useState<string | null>(null);
  const [order, ordering] = useOrderTopUpMutation();
  const [fill] = useLazyTopUpFillQuery();
  if (!data || !me) return <Waiting error={error} />;
  const { today } = me.company;
  const many = (row: TopUpRow) => typed[keyOf(row)] ?? row.propose;
  const mayChoose = (row: TopUpRow) => {
    if (!may || Number(row.propose) <= 0) return false;
    if (row.by === 'bring') return mayTransfer(row.siteId) || (row.fromSiteId !== null && mayTransfer(row.fromSiteId));
    return row.by === 'make' ? mayPlan(row.siteId) : row.supplierId !== null;
  };
  const open = data.rows.filter(({ putOff }) => putOff === null);
  const away = data.rows.filter(({ putOff }) => putOff !== null);
  const extra = filling.filter((row) => !data.rows.some((other) => keyOf(other) === keyOf(row)));
  const shown: (TopUpRow & { days?: number | null })[] = [...open, ...extra];
  const rows = shown.filter((row) => chosen.has(keyOf(row)) && mayChoose(row));
  const below = belowMinimum(
    rows.map((row) => ({ row, many: many(row) })),
    data.minimums,
  );
  const looked = [...shown, ...away].find((row) => keyOf(row) === selected) ?? shown[0] ?? away[0];
  const toggle = (some: readonly TopUpRow[], on: boolean) => {
    const next = new Set(chosen);
    for (const row of some)
      if (on) next.add(keyOf(row));
      else next.delete(keyOf(row));
    setChosen(next);
  };
  const { at, refused } = refusalOf(ordering);
  const post = async () => {
    const body = rows.map((row) => ({
      ...{ itemId: row.itemId, siteId: row.siteId, supplierId: row.supplierId, fromSiteId: row.fromSiteId, quantity: many(row).trim() },
      // What fills an order was not low: nothing about it can have been done already.
      ...(row.days === undefined ? { position: row.position } : {}),
    }));
    const result = await order({ body: { rows: body, place: false } });
    if (result.error) return;
    setChosen(new Set());
    setFilling([]);
    setTyped({});
  };
  const fillUp = async (supplierId: number, at: number) => {
    const { data: more } = await fill({ query: { supplierId, siteId: at } });
    if (more) setFilling((now) => [...now.filter((row) => row.supplierId !== supplierId || row.siteId !== at), ...more.rows]);
  };
  const errorOf = (row: TopUpRow) => {
    const nth = rows.findIndex((one) => keyOf(one) === keyOf(row));
    return at(`rows.${nth}.quantity`) ?? at(`rows.${nth}.itemId`);
  };
  const given = {
    ...{ mayChoose, chosen, toggle, many, errorOf, selected: looked ? keyOf(looked) : null },
    type: (row: TopUpRow, value: string) => setTyped({ ...typed, [keyOf(row)]: value }),
    select: (row: TopUpRow) => setSelected(keyOf(row)),
  };
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Top up</h1>
        <PlanningWays />
        <span className="quiet">{count(open.length, 'proposal')}: free plus what comes, less what is short, is at or below the reorder point</span>
        {itemId === undefined ? null : <Button onClick={() => address.put('item', '')}>Show all</Button>}
      </PageHead>
      {ordering.data ? <DraftsMade of={ordering.data} /> : null}
      {rows.some((row) => errorOf(row) !== undefined) ? null : <Refused error={refused} />}
      <Split>
        <Stack>
          {open.length === 0 ? (
            <Card state component="p">
              Nothing needs topping up. Items show here the moment their stock, with what is on order, falls to the reorder point.
            </Card>
          ) : null}
          {grouped(shown).map(([name, group]) => (
            <ProposalGroup key={name} name={name} group={group} {...given}>
              {below
                .filter(({ supplier }) => group.some((row) => row.by === 'buy' && groupOf(row) === supplier))
                .map(({ supplierId, siteId: site, site: siteName, comesTo, least }) => (
                  <p className="pad" key={`${supplierId}/${site}`}>
                    For {siteName} {money(comesTo)} of at least {money(least)} that they ask.{' '}
                    <Button size="small" onClick={() => void fillUp(supplierId, site)}>
                      Show what would fill it
                    </Button>
                  </p>
                ))}
            </ProposalGroup>
          ))}
          {away.length > 0 ? <ProposalGroup name="Put off" group={away} {...given} mayChoose={() => false} /> : null}
        </Stack>
        {looked ? (
          <Stack>
            <StockPeek itemId={looked.itemId} siteId={looked.siteId} picture={false} />
            {may ? <PutOffForm key={`${keyOf(looked)}/${looked.putOff?.until ?? ''}`} row={looked} today={today} /> : null}
          </Stack>
        ) : null}
      </Split>
      <BottomBar
        hint="Chosen rows become drafts, transfers and planned work"
        next={may ? { label: `Order ${count(rows.length, 'proposal')}`, run: () => void post(), disabled: rows.length === 0 || ordering.isLoading } : undefined}
      />
    </Stack>
  );
}
