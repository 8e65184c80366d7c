import { fieldsOf } from '../kit/formFields';
import { useAccountsQuery } from './accounts';
import { useMay } from './may';

interface Accounts {
  inventoryAccountId: number | null;
  costAccountId: number | null;
  salesAccountId: number | null;
}
const { Choice } = fieldsOf<Accounts>();

/** Which accounts stock, its cost and its sales stand on, when they are not the usual ones; `usual` says which those are. Among other fields. For those who see cost. */
export function OwnAccounts({ usual = 'As its category says' }: { usual?: string }) {
  const seesCost = useMay('costs.see', null);
  const { data } = useAccountsQuery({}, { skip: !seesCost });
  const of = (type: string) =>
    (data?.rows ?? []).filter((row) => row.type === type).map(({ id, code, name }) => ({ value: String(id), label: `${code} ${name}` }));
  if (!seesCost) return null;
  return (
    <>
      <Choice label="Stock stands on" name="inventoryAccountId" none={usual} ids options={of('inventory')} />
      <Choice label="Its cost goes to" name="costAccountId" none={usual} ids options={of('expense')} />
      <Choice label="Its sales come from" name="salesAccountId" none={usual} ids options={of('income')} />
    </>
  );
}
