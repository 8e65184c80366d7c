import type { BillPosted } from '@larder/contract/bills';
import type { Account } from '@larder/contract/books';
import type { LineWords } from './billCells';
import type { ChargeDraft, GoodsDraft, OtherDraft } from './billDraft';
import { ChargesBilled } from './ChargesBilled';
import { GoodsBilled } from './GoodsBilled';
import { OthersBilled } from './OthersBilled';

interface BillLinesProps {
  kind: 'bill' | 'credit';
  partyId: number;
  goods: readonly GoodsDraft[];
  setGoods: (goods: GoodsDraft[]) => void;
  charges: readonly ChargeDraft[];
  setCharges: (charges: ChargeDraft[]) => void;
  /** As they stand in the form around. */
  others: readonly OtherDraft[];
  accounts: readonly Account[];
  /** The lines as the server worked them out, in the order they were sent. */
  worked: BillPosted['lines'];
  faultAt: (field: string) => string | undefined;
}

const fields = ['quantity', 'price', 'amount', 'purchaseLineId', 'chargeId', 'accountId', 'text'];

/** Goods, charges and other lines of a bill; what differs from what was expected stands under each line. */
export function BillLines({ kind, partyId, goods, setGoods, charges, setCharges, others, accounts, worked, faultAt }: BillLinesProps) {
  let sent = 0;
  /** Where each line stands among those that are sent; null for one that is left empty. */
  const placed = (typed: readonly string[]) => typed.map((text) => (text.trim() === '' ? null : sent++));
  const goodsAt = placed(goods.map((one) => one.quantity));
  const chargesAt = placed(charges.map((one) => one.amount));
  const othersAt = placed(others.map((one) => one.text + one.amount));
  const saidIn =
    (places: readonly (number | null)[]) =>
    (index: number): LineWords => {
      const at = places[index] ?? null;
      if (at === null) return { fault: undefined, words: undefined };
      return { fault: fields.map((name) => faultAt(`lines.${at}.${name}`)).find(Boolean), words: worked[at]?.words };
    };
  return (
    <>
      <GoodsBilled kind={kind} goods={goods} setGoods={setGoods} saidOf={saidIn(goodsAt)} amountOf={(index) => worked[goodsAt[index] ?? -1]?.amount ?? ''} />
      <ChargesBilled partyId={partyId} charges={charges} setCharges={setCharges} saidOf={saidIn(chargesAt)} />
      <OthersBilled accounts={accounts} saidOf={saidIn(othersAt)} />
    </>
  );
}
