import Box from '@mui/material/Box';
import { Card } from '../../kit/layout';
import { type ExchangeKind } from '@larder/core/exchange/exchange';
import { BottomBar } from '../../kit/BottomBar';

export function Expected({ kind }: { kind: ExchangeKind }) {
  return (
    <Card aria-label="Columns that are known">
      <h2>
        Columns of {kind.name}
        <span>in any order, under these names or others that are common; yours can be told apart in the next step</span>
      </h2>
      <p className="pad">
        {kind.fields.map(({ key, name, needed }) => (
          <Box component="span" key={key} sx={{ marginRight: 16, display: 'inline-block' }} className={needed ? 'strong' : ''}>
            {name}
            {needed ? ' (needed)' : ''}
          </Box>
        ))}
      </p>
      <BottomBar hint="A spreadsheet saved as CSV or XLSX; nothing is written before you have seen it" />
    </Card>
  );
}
