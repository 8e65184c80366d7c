import type { Party } from '@larder/contract/setup';
import { useNavigate } from 'react-router';
import { useForm } from '../kit/form';
import { useMay } from './may';
import { useSay } from './say';
import { partyForm, type PartyForm } from './PartyFacts';
import { useCreatePartyMutation, useEditPartyMutation, useRetirePartyMutation } from './reference';

/** What each fact is called in a sentence. */
export const partyNames = {
  name: 'the name',
  email: 'the mail address',
  phone: 'the phone number',
  address: 'the address',
  notes: 'the notes',
  contacts: 'the same people',
  leadDays: 'the days to deliver',
  minimumOrder: 'the least an order comes to',
  payDays: 'the days to pay',
  taxCodeId: 'the tax',
  salesTaxCodeId: 'the tax',
  priceListId: 'the price list',
  salesCurrency: 'the currency',
  creditLimit: 'the credit limit',
  addresses: 'the same addresses',
};

/** A supplier or customer while it is written: how it is saved, and retired. A new one gets its own page, whose address `pageOf` gives. */
export function usePartyForm(party: Party | null, as: 'supplier' | 'customer', pageOf: (id: number) => string) {
  const may = useMay('items.edit', null);
  const say = useSay();
  const navigate = useNavigate();
  const [create] = useCreatePartyMutation();
  const [edit] = useEditPartyMutation();
  const [retireParty] = useRetirePartyMutation();
  const form = useForm({
    came: partyForm(party, as),
    version: party?.version ?? null,
    rowKeys: { contacts: ({ name }) => name, addresses: ({ label }) => label },
    body: ({ other, ...typed }: PartyForm) => ({
      ...typed,
      salesCurrency: typed.salesCurrency.trim() || null,
      creditLimit: typed.creditLimit.trim() || null,
      isSupplier: party?.isSupplier ?? (as === 'supplier' || other),
      isCustomer: party?.isCustomer ?? (as === 'customer' || other),
    }),
    checkedBy: async () => (await import('@larder/contract/setup')).createParty.body,
  });
  const save = async () => {
    const saved = await form.send(async (body, typed, version) => {
      if (party === null) return create({ body });
      const { isSupplier: _supplier, isCustomer: _customer, ...facts } = body;
      const result = await edit({ params: { id: party.id }, body: { ...facts, version } });
      if (result.data) form.kept(typed, result.data.version);
      return result;
    });
    if (!saved) return;
    say({ text: party === null ? `${saved.name} is added.` : `${saved.name} is saved.` });
    if (party === null) void navigate(pageOf(saved.id), { replace: true });
  };
  const retire = async () => {
    if (party === null) return;
    const done = await form.send(() => retireParty({ params: { id: party.id }, body: { retired: !party.retired } }));
    if (done) say({ text: done.retired ? `${done.name} is retired.` : `${done.name} is in use again.` });
  };
  return { form, save: () => may && void save(), retire: () => void retire(), may };
}
