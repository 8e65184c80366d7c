import { Fields } from '../kit/layout';
import { Choice } from '../kit/Field';
import { useAccountsQuery } from './accounts';
import { useMay } from './may';

interface Accounts {
  inventoryAccountId: number | null;
  costAccountId: number | null;
}

interface OwnAccountsProps {
  form: Accounts;
  put: (part: Partial<Accounts>) => void;
  errorAt: (field: string) => string | undefined;
  /** What stands for them when none is chosen. */
  usual?: string;
}

/** Which accounts stock and its cost stand on, when they are not the usual ones. */
export function OwnAccounts({ form, put, errorAt, usual = 'As its category says' }: OwnAccountsProps) {
  const { data } = useAccountsQuery({}, { skip: !useMay('costs.see', null) });
  const of = (type: string) =>
    (data?.rows ?? []).filter((row) => row.type === type).map(({ id, code, name }) => ({ value: String(id), label: `${code} ${name}` }));
  return (
    <Fields>
      <Choice
        label="Stock stands on"
        value={String(form.inventoryAccountId ?? '')}
        none={usual}
        onChange={(value) => put({ inventoryAccountId: Number(value) || null })}
        options={of('inventory')}
        error={errorAt('inventoryAccountId')}
      />
      <Choice
        label="Its cost goes to"
        value={String(form.costAccountId ?? '')}
        none={usual}
        onChange={(value) => put({ costAccountId: Number(value) || null })}
        options={of('expense')}
        error={errorAt('costAccountId')}
      />
    </Fields>
  );
}
