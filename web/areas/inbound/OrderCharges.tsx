import Button from '@mui/material/Button';
import { Card, Fields, Stack } from '../../kit/layout';
import { Choice, Field } from '../../kit/Field';
import { useReferenceQuery } from '../../shared/reference';

/** What an order costs beside its goods, while it is written. */
export interface DraftCharge {
  label: string;
  amount: string;
  taxCodeId: number | null;
}

interface OrderChargesProps {
  charges: readonly DraftCharge[];
  change: (charges: DraftCharge[]) => void;
  at: (field: string) => string | undefined;
}

/** Charges of an order: carriage, packing, tooling. They go on to its worksheet and its bill. */
export function OrderCharges({ charges, change, at }: OrderChargesProps) {
  const { data: reference } = useReferenceQuery({});
  const put = (index: number, part: Partial<DraftCharge>) => change(charges.map((charge, here) => (here === index ? { ...charge, ...part } : charge)));
  const taxes = (reference?.taxes ?? []).map(({ id, name, rate }) => ({ value: String(id), label: `${name}, ${rate} %` }));
  return (
    <Card aria-label="Charges">
      {charges.length > 0 ? (
        <Stack pad>
          {charges.map((charge, index) => (
            <Fields key={index} sx={{ alignItems: 'end' }}>
              <Field
                label="Charge for"
                value={charge.label}
                onChange={(label) => put(index, { label })}
                error={at(`charges.${index}.label`)}
                placeholder="carriage, packing…"
              />
              <Field label="Amount" value={charge.amount} onChange={(amount) => put(index, { amount })} error={at(`charges.${index}.amount`)} />
              <Choice
                label="Tax"
                none="No tax"
                value={String(charge.taxCodeId ?? '')}
                onChange={(id) => put(index, { taxCodeId: Number(id) || null })}
                options={taxes}
                error={at(`charges.${index}.taxCodeId`)}
              />
              <span>
                <Button onClick={() => change(charges.filter((_, here) => here !== index))}>Remove the charge</Button>
              </span>
            </Fields>
          ))}
        </Stack>
      ) : null}
      <p className="pad">
        <Button size="small" onClick={() => change([...charges, { label: '', amount: '', taxCodeId: reference?.taxes[0]?.id ?? null }])}>
          Add a charge
        </Button>{' '}
        <span className="quiet">{charges.length === 0 ? 'carriage, packing, tooling: whatever the supplier asks beside the goods' : ''}</span>
      </p>
    </Card>
  );
}
