import Button from '@mui/material/Button';
import { Card, Fields, Stack } from '../../kit/layout';
import { spreadWays, type SpreadBy } from '@larder/core/costing/landed';
import type { LandedLine } from '@larder/contract/landed';
import { useRow } from '../../kit/row';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { Field as PlainField } from '../../kit/Field';
import { fieldsOf, upper, useField } from '../../kit/formFields';
import { PartyPicker } from '../../shared/PartyPicker';
import { chargeFaults, emptyCharge, type ChargeDraft, type SheetDraft } from './sheetDraft';
import { MeasureItems } from './MeasureItems';

const wayNames: Record<SpreadBy, string> = { value: 'by value', quantity: 'by quantity', weight: 'by weight', volume: 'by volume', typed: 'by parts I type' };

const { Choice, Field } = fieldsOf<SheetDraft>();

/** A charge in one row where there is room for it; what takes it off stands beside its fields, not their labels. */
const beside = {
  gridTemplateColumns: '1.6fr 1fr 76px 96px 1.2fr 1.7fr 84px',
  alignItems: 'start',
  '& > :last-child': { marginTop: 24 },
  '@media (max-width: 900px)': { gridTemplateColumns: '1fr 1fr' },
};

interface ChargeCardsProps {
  /** Of the business. */
  currency: string;
  without: readonly (readonly LandedLine[])[];
  locked: boolean;
}

/** Each charge: what for, how much, spread by what, and who will bill it. */
export function ChargeCards({ currency, without, locked }: ChargeCardsProps) {
  const { control } = useFormContext<SheetDraft>();
  const { fields, append, remove } = useFieldArray({ control, name: 'charges', keyName: 'key' });
  return (
    <Card pad stack aria-label="Charges">
      {fields.map(({ key }, index) => (
        <ChargeCard
          key={key}
          index={index}
          currency={currency}
          without={without[index] ?? []}
          locked={locked}
          remove={fields.length === 1 ? undefined : () => remove(index)}
        />
      ))}
      {locked ? null : (
        <span>
          <Button size="small" onClick={() => append(emptyCharge(currency), { focusName: `charges.${fields.length}.name` })}>
            Add a charge
          </Button>
        </span>
      )}
    </Card>
  );
}

interface ChargeCardProps extends Omit<ChargeCardsProps, 'without'> {
  index: number;
  without: readonly LandedLine[];
  remove: (() => void) | undefined;
}

function ChargeCard({ index, currency, without, locked, remove }: ChargeCardProps) {
  const { setValue } = useFormContext<SheetDraft>();
  const charge = useRow<ChargeDraft>(`charges.${index}`);
  const party = useField(`charges.${index}.party`);
  if (!charge) return null;
  const isFixed = locked || charge.billed;
  const own = charge.currency === currency;
  return (
    <Stack role="group" aria-label={`Charge ${index + 1}`} sx={{ gap: 6 }}>
      <Fields sx={beside}>
        <Field label="Charge" name={`charges.${index}.name`} placeholder="Freight, duty, tooling…" disabled={locked} />
        <Field label="Amount" name={`charges.${index}.amount`} disabled={isFixed} hint={() => chargeFaults(charge).amount} />
        <Field
          label="Currency"
          name={`charges.${index}.currency`}
          disabled={isFixed}
          read={(typed) => {
            if (upper(typed) === currency) setValue(`charges.${index}.rate`, '1');
            return upper(typed);
          }}
          hint={() => chargeFaults(charge).currency}
        />
        {own ? (
          <PlainField label="Rate" value="1" onChange={() => undefined} disabled />
        ) : (
          <Field label={`${currency} for one`} name={`charges.${index}.rate`} disabled={isFixed} hint={() => chargeFaults(charge).rate} />
        )}
        <Choice label="Spread" name={`charges.${index}.by`} options={spreadWays.map((way) => ({ value: way, label: wayNames[way] }))} disabled={isFixed} />
        <PartyPicker as="supplier" label="Billed by" value={charge.party} onChange={party.onChange} />
        {charge.billed ? (
          <span className="quiet">billed</span>
        ) : (
          <Button size="small" disabled={locked || !remove} aria-label={`Remove charge ${index + 1}`} onClick={remove}>
            Remove
          </Button>
        )}
      </Fields>
      {charge.by === 'weight' || charge.by === 'volume' ? <MeasureItems what={charge.by} lines={without} /> : null}
    </Stack>
  );
}
