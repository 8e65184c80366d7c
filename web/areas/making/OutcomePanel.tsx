import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { WorkOrder } from '@larder/contract/workOrders';
import type { recordWork } from '@larder/contract/workRecords';
import type { ResponseOf } from '@larder/contract/endpoint';
import { EffectPanel } from '../../kit/EffectPanel';
import { money, price, quantity } from '../../kit/format';
import { Card, Stack } from '../../kit/layout';

interface OutcomeProps {
  answer: ResponseOf<typeof recordWork> | undefined;
  error: unknown;
  one: WorkOrder;
}
const some = (text: string): boolean => text !== '' && Number(text) !== 0;

/** What recording it will change: what comes in at which cost, beside that of the bill, and what is left in progress. */
export function OutcomePanel({ answer, error, one }: OutcomeProps) {
  const outcome = answer?.outcome;
  return (
    <Stack>
      {outcome && outcome.after !== '' ? (
        <Card aria-label="What it costs" aria-live="polite">
          <h2>What it costs</h2>
          <Table>
            <TableHead>
              <TableRow>
                <TableCell />
                <TableCell align="right">by the bill</TableCell>
                <TableCell align="right">this record</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {outcome.outputs.map((output) => (
                <TableRow key={output.itemId}>
                  <TableCell>
                    One <span className="code">{output.sku}</span>
                  </TableCell>
                  <TableCell align="right" className="quiet">
                    {output.rolledUp === null ? '' : price(Number(output.rolledUp).toFixed(2))}
                  </TableCell>
                  <TableCell align="right" className="strong">
                    {price(Number(output.unitCost).toFixed(2))}
                  </TableCell>
                </TableRow>
              ))}
              <Row name="Hours and other costs" many={some(outcome.charged) ? money(outcome.charged) : ''} />
              <Row name="In progress, now" many={money(outcome.inProgress)} />
              <Row name="In progress, after" many={money(outcome.after)} />
              {some(outcome.variance) ? <Row name="Making variance" many={money(outcome.variance)} /> : null}
            </TableBody>
          </Table>
        </Card>
      ) : null}
      {outcome && outcome.back.length > 0 ? (
        <Card pad aria-label="Goes back">
          Left at the work, and goes back:{' '}
          {outcome.back.map((back, index) => (
            <span key={`${back.sku} ${back.bin} ${index}`}>
              {index === 0 ? '' : ', '}
              {quantity(back.quantity)} <span className="code">{back.sku}</span> to {back.bin}
            </span>
          ))}
        </Card>
      ) : null}
      <EffectPanel title="What this will change" effects={answer?.effects} error={error} idle={`Say what was made of ${one.number}, and what was used.`} />
    </Stack>
  );
}

const Row = ({ name, many }: { name: string; many: string }) => (
  <TableRow>
    <TableCell colSpan={2}>{name}</TableCell>
    <TableCell align="right">{many}</TableCell>
  </TableRow>
);
