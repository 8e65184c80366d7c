import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { Party } from '@larder/contract/setup';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { fieldsOf, orNone, upper, useReadOnly, wholeOrNone } from '../kit/formFields';
import { Card, Fields, Stack } from '../kit/layout';
import { useMeQuery } from './me';
import { inUse, usePriceListsQuery, useReferenceQuery } from './reference';

/** What is written of a supplier or customer. */
export type PartyForm = Pick<
  Party,
  | 'name'
  | 'email'
  | 'phone'
  | 'address'
  | 'notes'
  | 'contacts'
  | 'leadDays'
  | 'minimumOrder'
  | 'payDays'
  | 'taxCodeId'
  | 'salesTaxCodeId'
  | 'priceListId'
  | 'addresses'
> & {
  /** Empty: the business's own currency, and any amount. */
  salesCurrency: string;
  creditLimit: string;
  other: boolean;
};
const { Check, Choice, Field, LongField } = fieldsOf<PartyForm>();

type As = 'supplier' | 'customer';

/** What stands in the form of a supplier or customer at first. */
export const partyForm = (party: Party | null, as: As): PartyForm => ({
  name: party?.name ?? '',
  email: party?.email ?? '',
  phone: party?.phone ?? '',
  address: party?.address ?? '',
  notes: party?.notes ?? '',
  contacts: party?.contacts ?? [],
  leadDays: party?.leadDays ?? 7,
  minimumOrder: party?.minimumOrder ?? null,
  payDays: party?.payDays ?? 30,
  taxCodeId: party?.taxCodeId ?? null,
  salesTaxCodeId: party?.salesTaxCodeId ?? null,
  priceListId: party?.priceListId ?? null,
  salesCurrency: party?.salesCurrency ?? '',
  creditLimit: party?.creditLimit ?? '',
  addresses: party?.addresses ?? [],
  other: party !== null && (as === 'supplier' ? party.isCustomer : party.isSupplier),
});

/** Name, addresses, terms and people of a supplier or customer. */
export function PartyFacts({ as, isNew }: { as: As; isNew: boolean }) {
  const { data: reference } = useReferenceQuery({});
  const { data: me } = useMeQuery({});
  const { data: lists } = usePriceListsQuery({}, { skip: as === 'supplier' });
  const taxes = inUse(reference?.taxes).map(({ id, name, rate }) => ({ value: String(id), label: `${name}, ${rate} %` }));
  return (
    <>
      <Card pad stack aria-label="Facts">
        <Fields>
          <Field label="Name" name="name" autoFocus={isNew} />
          <Field label="Mail address" name="email" />
          <Field label="Phone" name="phone" />
          {as === 'supplier' ? (
            <>
              <Field label="Days to deliver" name="leadDays" read={wholeOrNone} />
              <Field label={`Order of at least, ${me?.company.currency ?? ''}`} name="minimumOrder" placeholder="any amount" read={orNone} />
              <Choice label="Tax on what they bill" name="taxCodeId" ids none="as each item says" options={taxes} />
            </>
          ) : (
            <>
              <Choice
                label="Price list"
                name="priceListId"
                ids
                none="prices for everybody"
                options={inUse(lists?.rows).map(({ id, name }) => ({ value: String(id), label: name }))}
              />
              <Field label="Days to pay" name="payDays" read={wholeOrNone} />
              <Choice label="Tax on what they buy" name="salesTaxCodeId" ids none="as each item says" options={taxes} />
              <Field label="Pays in" name="salesCurrency" read={upper} placeholder={me?.company.currency ?? ''} />
              <Field label={`Credit limit, ${me?.company.currency ?? ''}`} name="creditLimit" placeholder="none" />
            </>
          )}
        </Fields>
        <LongField label="Address" rows={3} name="address" />
        <LongField label="Notes" rows={2} name="notes" />
        {isNew ? <Check label={as === 'supplier' ? 'We sell to them as well' : 'We buy from them as well'} name="other" /> : null}
      </Card>
      {as === 'customer' ? <Addresses /> : null}
      <People />
    </>
  );
}

/** Where goods go beside their own address. */
function Addresses() {
  const { control } = useFormContext<PartyForm>();
  const { fields, append, remove } = useFieldArray({ control, name: 'addresses' });
  const isRead = useReadOnly();
  return (
    <Card aria-label="Addresses">
      <h2>
        Addresses<span>where goods go, beside their own</span>
      </h2>
      <Stack pad>
        {fields.map(({ id }, index) => (
          <Fields key={id} sx={{ gridTemplateColumns: 'minmax(120px, 1fr) minmax(200px, 3fr) auto', alignItems: 'end' }}>
            <Field label="Called" name={`addresses.${index}.label`} placeholder="kitchen, second shop…" />
            <LongField label="Address there" rows={3} name={`addresses.${index}.address`} />
            {isRead ? null : (
              <Box>
                <Button aria-label={`Remove address ${index + 1}`} onClick={() => remove(index)}>
                  Remove
                </Button>
              </Box>
            )}
          </Fields>
        ))}
        {fields.length === 0 ? <p className="quiet">No other address yet.</p> : null}
        {isRead ? null : (
          <span>
            <Button size="small" onClick={() => append({ label: '', address: '' }, { focusName: `addresses.${fields.length}.label` })}>
              Add an address
            </Button>
          </span>
        )}
      </Stack>
    </Card>
  );
}

/** Whom to speak to there, the first one first. */
function People() {
  const { control } = useFormContext<PartyForm>();
  const { fields, append, remove } = useFieldArray({ control, name: 'contacts' });
  const isRead = useReadOnly();
  return (
    <Card aria-label="People">
      <h2>
        People<span>whom to speak to there</span>
      </h2>
      <Stack pad>
        {fields.map(({ id }, index) => (
          <Fields key={id} sx={{ gridTemplateColumns: 'repeat(auto-fit, minmax(130px, 1fr))', alignItems: 'end' }}>
            <Field label="Name of the person" name={`contacts.${index}.name`} />
            <Field label="Responsible for" name={`contacts.${index}.role`} placeholder="orders, accounts…" />
            <Field label="Their mail address" name={`contacts.${index}.email`} />
            <Field label="Their phone" name={`contacts.${index}.phone`} />
            {isRead ? null : (
              <Box>
                <Button aria-label={`Remove person ${index + 1}`} onClick={() => remove(index)}>
                  Remove
                </Button>
              </Box>
            )}
          </Fields>
        ))}
        {fields.length === 0 ? <p className="quiet">Nobody is named yet.</p> : null}
        {isRead ? null : (
          <span>
            <Button size="small" onClick={() => append({ name: '', role: '', email: '', phone: '' }, { focusName: `contacts.${fields.length}.name` })}>
              Add a person
            </Button>
          </span>
        )}
      </Stack>
    </Card>
  );
}
