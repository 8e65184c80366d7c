import Button from '@mui/material/Button';
import type { Party } from '@larder/contract/setup';
import type { ReactNode } from 'react';
import { useAddress } from '../kit/address';
import { AddressTabs } from '../kit/AddressTabs';
import { BottomBar, type NextStep } from '../kit/BottomBar';
import { ReadOnly } from '../kit/formFields';
import { FormFrame } from '../kit/FormFrame';
import { PageHead, Stack } from '../kit/layout';
import { Refused, Saved } from '../kit/states';
import { Clashes } from './Clashes';
import { PartyFacts } from './PartyFacts';
import { partyNames, usePartyForm } from './usePartyForm';

interface PartySheetProps {
  /** Null for one that is not there yet. */
  party: Party | null;
  as: 'supplier' | 'customer';
  pageOf: (id: number) => string;
  /** What people look for: parts of the page in front of the facts, each with its name. */
  parts: readonly (readonly [key: string, name: string, content: ReactNode])[];
  /** What else can be done. */
  actions?: ReactNode;
  next?: NextStep | undefined;
}

/** The page of a supplier or customer: what people look for first, and the facts to change behind a tab. */
export function PartySheet({ party, as, pageOf, parts, actions, next }: PartySheetProps) {
  const address = useAddress();
  const { form, save, retire, may } = usePartyForm(party, as, pageOf);
  const tabs = [...parts.map(([key, name]) => [key, name] as const), ['facts', 'Facts'] as const];
  const shown = party === null ? 'facts' : address.choice('show', tabs);
  const isFacts = shown === 'facts';
  return (
    <FormFrame form={form} save={save}>
      <ReadOnly value={!may}>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>{party?.name ?? `New ${as}`}</h1>
            {party?.retired ? <span className="late">retired</span> : null}
            <Saved on={form.isSaved} />
            {party === null ? null : <AddressTabs label={`About the ${as}`} address={address} name="show" options={tabs} />}
          </PageHead>
          <Refused error={form.refused} />
          {party === null ? null : <Clashes of={{ kind: 'party', id: party.id }} writing={form} names={partyNames} />}
          {isFacts ? <PartyFacts as={as} isNew={party === null} /> : parts.find(([key]) => key === shown)?.[2]}
          <BottomBar
            hint={party === null ? 'A name is enough to begin with' : ''}
            next={
              may && (isFacts || form.isTyped) ? { label: party === null ? `Add the ${as}` : `Save ${party.name}`, run: save, disabled: form.isBusy } : next
            }
          >
            {actions}
            {may && party !== null && isFacts ? (
              <Button disabled={form.isBusy} onClick={retire}>
                {party.retired ? 'Take back into use' : 'Retire'}
              </Button>
            ) : null}
          </BottomBar>
        </Stack>
      </ReadOnly>
    </FormFrame>
  );
}
