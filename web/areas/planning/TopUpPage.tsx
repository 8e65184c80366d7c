import { DraftsMade } from '../../shared/DraftsMade';
import { useMay, useMayAt } from '../../shared/may';
import { Card, PageHead, Stack } from '../../kit/layout';
import { useState } from 'react';
import type { TopUpRow } from '@larder/contract/planning';
import { useSite } from '../../shared/site';
import { BottomBar } from '../../kit/BottomBar';
import { count } from '../../kit/format';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useOrderTopUpMutation, useTopUpQuery } from './api';
import { PlanningWays } from './PlanningWays';
import { groupOf, keyOf, SupplierProposals } from './SupplierProposals';

/** Each item and site at or below its reorder point, with its arithmetic, by supplier, and what is made here. Chosen rows become purchase orders and planned work. */
export function TopUpPage() {
  useTitle('Top up');
  const { siteId } = useSite();
  const may = useMay('planning.top-up');
  const mayPlan = useMayAt('making.plan');
  const { data, error } = useTopUpQuery({ query: { siteId } });
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [order, { isLoading, error: refused, data: made }] = useOrderTopUpMutation();
  if (!data) return <Waiting error={error} />;
  const many = (row: TopUpRow) => typed[keyOf(row)] ?? row.propose;
  const mayChoose = (row: TopUpRow) => row.supplierId !== null || (row.made && mayPlan(row.siteId));
  const rows = data.rows.filter((row) => chosen.has(keyOf(row)) && mayChoose(row));
  const groups = [...new Set(data.rows.map(groupOf))];
  const toggle = (keys: string[], on: boolean) => {
    const next = new Set(chosen);
    keys.forEach((key) => (on ? next.add(key) : next.delete(key)));
    setChosen(next);
  };
  const post = async () => {
    const result = await order({
      body: {
        rows: rows.map((row) => ({ itemId: row.itemId, siteId: row.siteId, supplierId: row.supplierId, quantity: many(row).trim() })),
        place: false,
      },
    });
    if (!result.error) setChosen(new Set());
  };
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Top up</h1>
        <PlanningWays />
        <span className="quiet">{count(data.rows.length, 'proposal')}: free plus on order less short is at or below the reorder point</span>
      </PageHead>
      {made ? <DraftsMade of={made} /> : null}
      <Refused error={refused} />
      {data.rows.length === 0 ? (
        <Card state component="p">
          Nothing needs topping up. Items show here the moment their stock, with what is on order, falls to the reorder point.
        </Card>
      ) : null}
      {groups.map((name) => {
        const group = data.rows.filter((row) => groupOf(row) === name);
        return (
          <SupplierProposals
            key={name}
            name={name}
            group={group}
            mayChoose={mayChoose}
            chosen={chosen}
            toggle={toggle}
            many={many}
            type={(row, value) => setTyped({ ...typed, [keyOf(row)]: value })}
          />
        );
      })}
      <BottomBar
        hint="Chosen rows become drafts, one for each supplier and site, and planned work"
        next={may ? { label: `Order ${count(rows.length, 'proposal')}`, run: () => void post(), disabled: rows.length === 0 || isLoading } : undefined}
      />
    </Stack>
  );
}
