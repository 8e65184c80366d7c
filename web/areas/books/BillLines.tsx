import { useState } from 'react';
import type { BillPosted } from '@larder/contract/bills';
import type { Account } from '@larder/contract/books';
import { amount, count, money, price, quantity } from '../../kit/format';
import { useReferenceQuery } from '../../shared/reference';
import { sentBack, type ChargeDraft, type GoodsDraft, type OtherDraft } from './billDraft';

interface BillLinesProps {
  kind: 'bill' | 'credit';
  partyId: number;
  goods: readonly GoodsDraft[];
  setGoods: (goods: GoodsDraft[]) => void;
  charges: readonly ChargeDraft[];
  setCharges: (charges: ChargeDraft[]) => void;
  others: readonly OtherDraft[];
  setOthers: (others: OtherDraft[]) => void;
  accounts: readonly Account[];
  /** The lines as the server worked them out, in the order they were sent. */
  worked: BillPosted['lines'];
  faultAt: (field: string) => string | undefined;
}

const kept = new Set(['grni', 'credits-expected', 'payable', 'landed-clearing']);

/** Nothing of it has come that is not billed, and nothing is typed for it. */
const isToCome = ({ line, quantity: typed }: GoodsDraft): boolean => typed.trim() === '' && Number(line.received) <= Number(line.billed);

/** Goods, charges and other lines of a bill; what differs from what was expected stands under each line. */
export function BillLines({ kind, partyId, goods, setGoods, charges, setCharges, others, setOthers, accounts, worked, faultAt }: BillLinesProps) {
  const { data: reference } = useReferenceQuery({});
  const [all, setAll] = useState(false);
  const [anybodys, setAnybodys] = useState(false);
  /** Expected from somebody else, and nothing is typed for it. */
  const isOthers = ({ charge, amount }: ChargeDraft) => charge.partyId !== null && charge.partyId !== partyId && amount.trim() === '';
  const fromOthers = charges.filter(isOthers).length;
  const byQuantity = (one: GoodsDraft) => kind === 'bill' || sentBack(one.line) !== '';
  const toCome = goods.filter(isToCome).length;
  let sent = 0;
  /** Where each line stands among those that are sent; null for one that is left empty. */
  const placed = (typed: readonly string[]) => typed.map((text) => (text.trim() === '' ? null : sent++));
  const goodsAt = placed(goods.map((one) => one.quantity));
  const chargesAt = placed(charges.map((one) => one.amount));
  const othersAt = placed(others.map((one) => one.text + one.amount));
  const wordsOf = (at: number | null | undefined) => {
    if (at === null || at === undefined) return null;
    const fault = ['quantity', 'price', 'amount', 'purchaseLineId', 'chargeId', 'accountId', 'text']
      .map((name) => faultAt(`lines.${at}.${name}`))
      .find(Boolean);
    const words = worked[at]?.words;
    if (fault)
      return (
        <small className="late name" role="alert">
          {fault}
        </small>
      );
    return words ? <small className="quiet name">{words}</small> : null;
  };
  const change = <T,>(list: readonly T[], index: number, part: Partial<T>): T[] => list.map((one, at) => (at === index ? { ...one, ...part } : one));
  const cell = (label: string, value: string, onChange: (value: string) => void, width = 84) => (
    <input
      className="plain number"
      style={{ width, height: 32 }}
      inputMode="decimal"
      aria-label={label}
      value={value}
      onChange={(event) => onChange(event.target.value)}
    />
  );
  const taxOf = (label: string, value: number | null, onChange: (value: number | null) => void) => (
    <select className="plain" style={{ height: 32 }} aria-label={label} value={value ?? ''} onChange={(event) => onChange(Number(event.target.value) || null)}>
      <option value="">No tax</option>
      {(reference?.taxes ?? []).map(({ id, name, rate }) => (
        <option key={id} value={id}>
          {name}, {rate} %
        </option>
      ))}
    </select>
  );
  return (
    <>
      {goods.length > 0 ? (
        <section className="card scroll" aria-label="Goods">
          <table aria-label="Goods billed">
            <thead>
              <tr>
                <th>Order</th>
                <th>Goods</th>
                <th className="number">Ordered</th>
                <th className="number">Received</th>
                <th className="number">Billed before</th>
                <th className="number">{kind === 'bill' ? 'Billed now' : 'Sent back, or amount off'}</th>
                <th className="number">Price</th>
                <th className="number">Amount</th>
              </tr>
            </thead>
            <tbody>
              {goods.map((one, index) => (
                <tr key={one.line.purchaseLineId} hidden={!all && isToCome(one)}>
                  <td className="code quiet">{one.line.orderNumber}</td>
                  <td>
                    <span className="code">{one.line.sku}</span>
                    <span className="name">{one.line.name}</span>
                    {wordsOf(goodsAt[index])}
                  </td>
                  <td className="number quiet">{quantity(one.line.ordered)}</td>
                  <td className="number">
                    {quantity(one.line.received, true)}
                    {one.line.returned === '0' ? null : <small className="quiet name">{quantity(one.line.returned)} went back</small>}
                  </td>
                  <td className="number quiet">{quantity(one.line.billed, true)}</td>
                  <td className="number">
                    {cell(`${kind === 'bill' ? 'Billed now' : 'Taken off'}, ${one.line.orderNumber} ${one.line.sku}`, one.quantity, (value) =>
                      setGoods(change(goods, index, { quantity: value })),
                    )}
                  </td>
                  {byQuantity(one) ? (
                    <td className="number">
                      {cell(`Price, ${one.line.orderNumber} ${one.line.sku}`, one.price, (value) => setGoods(change(goods, index, { price: value })))}
                      <small className="quiet name">
                        {one.line.pricePer === '1' ? '' : `for ${quantity(one.line.pricePer)}, `}
                        {one.line.factor === '1' ? '' : `a ${one.line.unit}, `}ordered at {price(one.line.price)} {one.line.currency}
                      </small>
                    </td>
                  ) : (
                    <td />
                  )}
                  <td className="number">{byQuantity(one) ? amount(worked[goodsAt[index] ?? -1]?.amount ?? '') : one.quantity}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {toCome > 0 && !all ? (
            <p className="pad">
              <button type="button" className="button small" onClick={() => setAll(true)}>
                Show {count(toCome, 'line')} that {toCome === 1 ? 'has' : 'have'} not come yet
              </button>
            </p>
          ) : null}
        </section>
      ) : null}
      {charges.length > 0 ? (
        <section className="card" aria-label="Charges">
          <table aria-label="Charges billed" hidden={!anybodys && fromOthers === charges.length}>
            <thead>
              <tr>
                <th>Charge expected</th>
                <th>From</th>
                <th className="number">Estimate</th>
                <th className="number">Still open</th>
                <th className="number">Billed now</th>
                <th>Tax</th>
                <th>Last bill</th>
              </tr>
            </thead>
            <tbody>
              {charges.map((one, index) => (
                <tr key={one.charge.id} hidden={!anybodys && isOthers(one)}>
                  <td>
                    {one.charge.name} <span className="code quiet">{one.charge.sheet}</span>
                    <small className="quiet name">{one.charge.deliveries}</small>
                    {wordsOf(chargesAt[index])}
                  </td>
                  <td className="quiet">{one.charge.party ?? 'not known yet'}</td>
                  <td className="number quiet">{money(one.charge.estimate)}</td>
                  <td className="number">{money(one.charge.open)}</td>
                  <td className="number">
                    {cell(`Billed for ${one.charge.name}, ${one.charge.sheet}`, one.amount, (amount) => setCharges(change(charges, index, { amount })), 104)}
                  </td>
                  <td>
                    {taxOf(`Tax on ${one.charge.name}, ${one.charge.sheet}`, one.taxCodeId, (taxCodeId) => setCharges(change(charges, index, { taxCodeId })))}
                  </td>
                  <td>
                    <input
                      type="checkbox"
                      aria-label={`No more bills for ${one.charge.name}, ${one.charge.sheet}`}
                      checked={one.final}
                      onChange={(event) => setCharges(change(charges, index, { final: event.target.checked }))}
                    />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {fromOthers > 0 && !anybodys ? (
            <p className="pad">
              <button type="button" className="button small" onClick={() => setAnybodys(true)}>
                Show {count(fromOthers, 'charge')} expected from others
              </button>
            </p>
          ) : null}
        </section>
      ) : null}
      <section className="card pad stack" aria-label="Other lines">
        {others.map((one, index) => (
          <div key={index} className="fields" style={{ gridTemplateColumns: '2fr 2fr 1fr 1fr' }}>
            <input
              className="plain"
              aria-label={`What line ${index + 1} is for`}
              placeholder="What it is for"
              value={one.text}
              onChange={(event) => setOthers(change(others, index, { text: event.target.value }))}
            />
            <select
              className="plain"
              aria-label={`Account of line ${index + 1}`}
              value={one.accountId}
              onChange={(event) => setOthers(change(others, index, { accountId: event.target.value }))}
            >
              {accounts
                .filter(({ type, purpose }) => type !== 'inventory' && !kept.has(purpose ?? ''))
                .map(({ id, code, name }) => (
                  <option key={id} value={id}>
                    {code} {name}
                  </option>
                ))}
            </select>
            <span>
              {cell(`Amount of line ${index + 1}`, one.amount, (amount) => setOthers(change(others, index, { amount })), 104)}
              {wordsOf(othersAt[index])}
            </span>
            {taxOf(`Tax on line ${index + 1}`, one.taxCodeId, (taxCodeId) => setOthers(change(others, index, { taxCodeId })))}
          </div>
        ))}
        <span>
          <button
            type="button"
            className="button small"
            onClick={() =>
              setOthers([
                ...others,
                { text: '', accountId: String(accounts.find(({ purpose }) => purpose === 'other-costs')?.id ?? ''), amount: '', taxCodeId: null },
              ])
            }
          >
            Add another line
          </button>
        </span>
      </section>
    </>
  );
}
