import Button from '@mui/material/Button';
import { Card, Fields, inRow } from '../../kit/layout';
import { CellChoice, CellField } from '../../kit/CellField';
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
    <Card pad stack aria-label="Other lines">
      {others.map((one, index) => (
        <Fields key={index} sx={inRow('2fr 2fr 1fr 1fr', 'start')}>
          <CellField
            label={`What line ${index + 1} is for`}
            placeholder="What it is for"
            value={one.text}
            onChange={(typed) => setOthers(changed(others, index, { text: typed }))}
            tall
          />
          <CellChoice
            label={`Account of line ${index + 1}`}
            value={one.accountId}
            onChange={(typed) => setOthers(changed(others, index, { accountId: typed }))}
            tall
          >
            {accounts.filter(maybeBilled).map(({ id, code, name }) => (
              <option key={id} value={id}>
                {code} {name}
              </option>
            ))}
          </CellChoice>
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
        </Fields>
      ))}
      <span>
        <Button
          size="small"
          onClick={() =>
            setOthers([
              ...others,
              { text: '', accountId: String(accounts.find(({ purpose }) => purpose === 'other-costs')?.id ?? ''), amount: '', taxCodeId: null },
            ])
          }
        >
          Add another line
        </Button>
      </span>
    </Card>
  );
}
