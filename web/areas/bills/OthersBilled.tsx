import type { Account } from '@larder/contract/books';
import { maybeBilled } from '@larder/core/books/purpose';
import { changed, LineNumber, LineSaid, LineTax, type LineWords } from './billCells';
import type { OtherDraft } from './billDraft';

interface OthersBilledProps {
  others: readonly OtherDraft[];
  setOthers: (others: OtherDraft[]) => void;
  accounts: readonly Account[];
  saidOf: (index: number) => LineWords;
}

/** Lines of a bill for what nobody ordered: in words, on an account. */
export function OthersBilled({ others, setOthers, accounts, saidOf }: OthersBilledProps) {
  return (
    <section className="card pad stack" aria-label="Other lines">
      {others.map((one, index) => (
        <div key={index} className="fields" style={{ gridTemplateColumns: '2fr 2fr 1fr 1fr' }}>
          <input
            className="plain"
            aria-label={`What line ${index + 1} is for`}
            placeholder="What it is for"
            value={one.text}
            onChange={(event) => setOthers(changed(others, index, { text: event.target.value }))}
          />
          <select
            className="plain"
            aria-label={`Account of line ${index + 1}`}
            value={one.accountId}
            onChange={(event) => setOthers(changed(others, index, { accountId: event.target.value }))}
          >
            {accounts.filter(maybeBilled).map(({ id, code, name }) => (
              <option key={id} value={id}>
                {code} {name}
              </option>
            ))}
          </select>
          <span>
            <LineNumber
              label={`Amount of line ${index + 1}`}
              value={one.amount}
              onChange={(amount) => setOthers(changed(others, index, { amount }))}
              width={104}
            />
            <LineSaid {...saidOf(index)} />
          </span>
          <LineTax label={`Tax on line ${index + 1}`} value={one.taxCodeId} onChange={(taxCodeId) => setOthers(changed(others, index, { taxCodeId }))} />
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
  );
}
