import { counted, type TallyLine } from '@larder/core/inbound/tally';
import type { DeskLine } from '@larder/contract/receiving';
import { due, quantity } from '../../kit/format';
import { useBinsQuery } from '../../shared/reference';
import { LotFields } from '../../shared/LotFields';
import { lotsApart, waitingWords } from '@larder/core/inbound/desk';

/** Where an order goes and when it is due, or how late it is. */
export function DeliveryDue({ line, today }: { line: DeskLine; today: string }) {
  const late = line.expectedOn !== null && line.expectedOn < today;
  return (
    <>
      to {line.site},{' '}
      <span className={late ? 'late' : ''}>
        {late ? '' : 'due '}
        {due(line.expectedOn, today)}
      </span>
    </>
  );
}

export function DeliveryLine({ line, at, put }: { line: DeskLine; at: TallyLine | undefined; put: (part: Partial<TallyLine>) => void }) {
  const { data: bins } = useBinsQuery({ query: { siteId: line.siteId } });
  const here = counted(at);
  const some = here.gt(0);
  const of = `${line.sku} on ${line.orderNumber}`;
  const binId = at?.binId ?? line.binId;
  const given = (at?.lots ?? []).filter(({ code }) => code.trim() !== '');
  const { apart } = lotsApart(given, counted({ quantity: at?.damaged ?? '', binId: null }));
  return (
    <>
      <tr aria-selected={some}>
        <td>
          <span className="code">{line.sku}</span>
          <span className="name">{line.name}</span>
          {line.waiting.length > 0 ? <small className="low">{waitingWords(line)}</small> : null}
          {line.others.map(({ person, quantity: many }) => (
            <small key={person} className="quiet" style={{ display: 'block' }}>
              {person} has counted {quantity(many)} just now
            </small>
          ))}
        </td>
        <td className="number">
          <button
            type="button"
            className="button small"
            aria-label={`Take all ${quantity(line.outstanding)} of ${of}`}
            onClick={() => put({ quantity: line.outstanding, binId })}
          >
            of {quantity(line.outstanding)}
          </button>{' '}
          <input
            className="plain number"
            style={{ width: 84, height: 32 }}
            inputMode="decimal"
            aria-label={`Quantity of ${of}`}
            value={at?.quantity ?? ''}
            onChange={(event) => put({ quantity: event.target.value.slice(0, 20), binId })}
          />
        </td>
        <td className="under" style={{ width: 150 }}>
          {line.stocked ? (
            <select
              className="plain"
              style={{ width: '100%', height: 32 }}
              aria-label={`Bin for ${of}`}
              value={binId ?? ''}
              onChange={(event) => put({ binId: Number(event.target.value) })}
            >
              {(bins?.rows ?? []).map((bin) => (
                <option key={bin.id} value={bin.id}>
                  {bin.code}
                </option>
              ))}
            </select>
          ) : (
            <span className="quiet">not kept in stock</span>
          )}
        </td>
      </tr>
      {some ? (
        <tr>
          <td colSpan={3} className="under">
            <div className="choices">
              {line.stocked && (bins?.rows ?? []).some(({ sellable }) => !sellable) ? (
                <label>
                  Damaged{' '}
                  <input
                    className="plain number"
                    style={{ width: 64, height: 28 }}
                    inputMode="decimal"
                    aria-label={`Damaged of ${of}`}
                    value={at?.damaged ?? ''}
                    onChange={(event) => put({ damaged: event.target.value.slice(0, 20) })}
                  />{' '}
                  to quarantine
                  {apart.length > 0 ? <span className="code"> {apart.map(({ code }) => code).join(', ')}</span> : null}
                </label>
              ) : null}
              {line.waiting.length > 0 ? (
                <label>
                  <input type="checkbox" checked={at?.toBench ?? false} onChange={(event) => put({ toBench: event.target.checked })} /> Straight to the bench
                </label>
              ) : null}
              {here.lt(line.outstanding) ? (
                <label>
                  <input type="checkbox" checked={at?.noMore ?? false} onChange={(event) => put({ noMore: event.target.checked })} /> The other{' '}
                  {quantity(here.minus(line.outstanding).neg().toFixed())} will not come
                </label>
              ) : null}
            </div>
            <LotFields item={line} wanted={at?.quantity ?? ''} lots={at?.lots ?? []} change={(lots) => put({ lots })} />
          </td>
        </tr>
      ) : null}
    </>
  );
}
