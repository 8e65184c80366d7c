import Button from '@mui/material/Button';
import { Card, Fields, Stack } from '../../kit/layout';
import { spreadWays, type SpreadBy } from '@larder/core/costing/landed';
import type { LandedLine } from '@larder/contract/landed';
import { Choice, Field } from '../../kit/Field';
import { PartyPicker } from '../../shared/PartyPicker';
import { chargeFaults, emptyCharge, type ChargeDraft } from './sheetDraft';
import { MeasureItems } from './MeasureItems';

const wayNames: Record<SpreadBy, string> = { value: 'by value', quantity: 'by quantity', weight: 'by weight', volume: 'by volume', typed: 'by parts I type' };

/** A charge in one row where there is room for it; what takes it off stands beside its fields, not their labels. */
const beside = {
  gridTemplateColumns: '1.6fr 1fr 76px 96px 1.2fr 1.7fr 84px',
  alignItems: 'start',
  '& > :last-child': { marginTop: 24 },
  '@media (max-width: 900px)': { gridTemplateColumns: '1fr 1fr' },
};

interface ChargeCardsProps {
  charges: readonly ChargeDraft[];
  change: (index: number, part: Partial<ChargeDraft>) => void;
  setCharges: (charges: ChargeDraft[]) => void;
  currency: string;
  without: readonly (readonly LandedLine[])[];
  /** What was refused about a charge: about one of its fields, or, of `rest`, about what has no field of its own. */
  faultOf: (index: number, field: 'amount' | 'currency' | 'rate' | 'rest') => string | undefined;
  locked: boolean;
}

/** Each charge: what for, how much, spread by what, and who will bill it. */
export function ChargeCards({ charges, change, setCharges, currency, without, faultOf, locked }: ChargeCardsProps) {
  return (
    <Card pad stack aria-label="Charges">
      {charges.map((charge, index) => (
        <Stack key={charge.id ?? `new ${index}`} role="group" aria-label={`Charge ${index + 1}`} sx={{ gap: 6 }}>
          <Fields sx={beside}>
            <Field
              label="Charge"
              value={charge.name}
              onChange={(name) => change(index, { name })}
              placeholder="Freight, duty, tooling…"
              disabled={locked}
              error={faultOf(index, 'rest')}
            />
            <Field
              label="Amount"
              value={charge.amount}
              onChange={(amount) => change(index, { amount })}
              disabled={locked || charge.billed}
              error={chargeFaults(charge).amount ?? faultOf(index, 'amount')}
            />
            <Field
              label="Currency"
              value={charge.currency}
              onChange={(text) => change(index, { currency: text.toUpperCase(), ...(text.toUpperCase() === currency ? { rate: '1' } : {}) })}
              disabled={locked || charge.billed}
              error={chargeFaults(charge).currency ?? faultOf(index, 'currency')}
            />
            <Field
              label={charge.currency === currency ? 'Rate' : `${currency} for one`}
              value={charge.currency === currency ? '1' : charge.rate}
              onChange={(rate) => change(index, { rate })}
              disabled={locked || charge.billed || charge.currency === currency}
              error={chargeFaults(charge).rate ?? faultOf(index, 'rate')}
            />
            <Choice
              label="Spread"
              value={charge.by}
              onChange={(by) => change(index, { by: by as SpreadBy })}
              options={spreadWays.map((way) => ({ value: way, label: wayNames[way] }))}
              disabled={locked || charge.billed}
            />
            <PartyPicker as="supplier" label="Billed by" value={charge.party} onChange={(party) => change(index, { party })} />
            {charge.billed ? (
              <span className="quiet">billed</span>
            ) : (
              <Button
                size="small"
                disabled={locked || charges.length === 1}
                aria-label={`Remove charge ${index + 1}`}
                onClick={() => setCharges(charges.filter((_, one) => one !== index))}
              >
                Remove
              </Button>
            )}
          </Fields>
          {charge.by === 'weight' || charge.by === 'volume' ? <MeasureItems what={charge.by} lines={without[index] ?? []} /> : null}
        </Stack>
      ))}
      {locked ? null : (
        <span>
          <Button size="small" onClick={() => setCharges([...charges, emptyCharge(currency)])}>
            Add a charge
          </Button>
        </span>
      )}
    </Card>
  );
}
