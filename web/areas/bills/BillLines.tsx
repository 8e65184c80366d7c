import type { BillPosted } from '@larder/contract/bills';
import type { Account } from '@larder/contract/books';
import type { ChargeDraft, GoodsDraft, ParcelDraft, SentLine } from './billDraft';
import { ChargesBilled } from './ChargesBilled';
import { GoodsBilled } from './GoodsBilled';
import { OthersBilled } from './OthersBilled';
import { ParcelsBilled } from './ParcelsBilled';

interface BillLinesProps {
  kind: 'bill' | 'credit';
  partyId: number;
  goods: readonly GoodsDraft[];
  charges: readonly ChargeDraft[];
  parcels: readonly ParcelDraft[];
  /** The lines that are sent, with the rows of the form around that they stand in. */
  sent: readonly SentLine[];
  accounts: readonly Account[];
  /** The lines as the server worked them out, in the order they were sent. */
  worked: BillPosted['lines'];
}

/** What the server worked out for a row of the form; undefined while it has not, and for a row that is not sent. */
export type WorkedOf = (row: SentLine['row']) => BillPosted['lines'][number] | undefined;

/** Goods, charges, parcels and other lines of a bill; what differs from what was expected stands under each line. */
export function BillLines({ kind, partyId, goods, charges, parcels, sent, accounts, worked }: BillLinesProps) {
  const workedOf: WorkedOf = (row) => worked[sent.findIndex((one) => one.row === row)];
  return (
    <>
      <GoodsBilled kind={kind} goods={goods} workedOf={workedOf} />
      <ChargesBilled partyId={partyId} charges={charges} workedOf={workedOf} />
      <ParcelsBilled parcels={parcels} workedOf={workedOf} />
      <OthersBilled accounts={accounts} workedOf={workedOf} />
    </>
  );
}
