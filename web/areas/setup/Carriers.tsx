import type { Carrier as Row } from '@larder/contract/carriers';
import { fieldsOf } from '../../kit/formFields';
import { Waiting } from '../../kit/states';
import { useCarriersQuery } from '../../shared/carriers';
import { PartyField } from '../../shared/PartyField';
import { useCreateCarrierMutation, useEditCarrierMutation } from './api';
import { RowForm, Section } from './Section';
import { useRowForm } from './useRowForm';

interface CarrierForm {
  name: string;
  party: { id: number; name: string } | null;
  connected: boolean;
}
const { Check, Field } = fieldsOf<CarrierForm>();

/** Who takes parcels to customers: whom each is billed by, and whether it is asked over its interface. */
export function Carriers() {
  const { data, error } = useCarriersQuery({});
  if (!data) return <Waiting error={error} />;
  return (
    <Section
      name="Carriers"
      one="carrier"
      rows={data.rows}
      columns={[
        { name: 'Carrier', cell: ({ name }) => <b>{name}</b>, text: ({ name }) => name },
        { name: 'Billed by', cell: ({ party }) => party, text: ({ party }) => party },
        { name: 'Prices and tracking numbers', wide: true, cell: ({ connected }) => (connected ? 'asked of the carrier' : 'typed') },
      ]}
      form={(row, added) => <Carrier row={row} added={added} />}
    />
  );
}

function Carrier({ row, added }: { row: Row | null; added: () => void }) {
  const [create] = useCreateCarrierMutation();
  const [edit] = useEditCarrierMutation();
  const given = useRowForm({
    list: 'carriers',
    row,
    came: { name: row?.name ?? '', party: row ? { id: row.partyId, name: row.party } : null, connected: row?.connected ?? false },
    body: ({ name, party, connected }: CarrierForm) => ({ name, partyId: party?.id ?? 0, connected }),
    checkedBy: async () => (await import('@larder/contract/carriers')).createCarrier.body,
    sentAs: { partyId: 'party' },
    send: (body) => (row ? edit({ params: { id: row.id }, body }) : create({ body })),
    said: ({ name }) => (row ? `${name} is saved.` : `${name} is added.`),
    added,
  });
  return (
    <RowForm one="carrier" name={row?.name ?? null} {...given}>
      <Field label="Name" name="name" autoFocus={row === null} />
      <PartyField as="supplier" label="Billed by" name="party" />
      <Check label="Asked for prices and tracking numbers over its interface" name="connected" />
    </RowForm>
  );
}
