import Box from '@mui/material/Box';
import Dialog from '@mui/material/Dialog';
import DialogTitle from '@mui/material/DialogTitle';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableFooter from '@mui/material/TableFooter';
import TableRow from '@mui/material/TableRow';
import type { Explained } from '@larder/contract/explain';
import { Link } from 'react-router';
import { explainName, useAddress } from '../kit/address';
import { documentAddress } from '../kit/DocumentLink';
import { money, price, quantity, shortDay } from '../kit/format';
import { Waiting } from '../kit/states';
import { Tabs } from '../kit/Tabs';
import { askedFigure, figures, names, written, type Asked, type Figure } from './explaining';
import { useMeQuery } from './me';
import { useReferenceQuery } from './reference';
import { useSite } from './site';
import { useExplainedQuery } from './stock';

/** Explains a figure over the page where its address asks for it. */
export function ExplainDialog() {
  const address = useAddress();
  const asked = askedFigure(address.get(explainName));
  const close = () => address.put(explainName, '');
  return (
    <Dialog open={asked !== null} onClose={close} aria-labelledby="explained">
      {asked ? <Sheet {...asked} show={(figure) => address.put(explainName, written({ ...asked, figure }))} close={close} /> : null}
    </Dialog>
  );
}

interface SheetProps extends Asked {
  show: (figure: Figure) => void;
  close: () => void;
}

function Sheet({ figure, itemId, siteId: asked, show, close }: SheetProps) {
  const { siteId: chosen } = useSite();
  const siteId = asked ?? chosen;
  const { data: reference } = useReferenceQuery({});
  const site = reference?.sites.find(({ id }) => id === siteId)?.name;
  const { currentData: data, error } = useExplainedQuery({ params: { id: itemId }, query: { siteId } });
  const shown = data ? figures.filter((one) => [...data.quantities, ...data.costs].some((row) => row.figure === one)) : [];
  return (
    <Box className="pad" sx={{ width: 640, maxWidth: '100%', minHeight: 300 }}>
      <DialogTitle id="explained" sx={{ marginBottom: 4 }}>
        {data ? `${names[figure]} of ${data.sku}` : 'One moment…'}
        <Box component="small" className="quiet" sx={{ display: 'block', fontSize: 13, fontWeight: 400 }}>
          {data ? `${data.name}, ${site ?? 'all sites'}` : ''}
        </Box>
      </DialogTitle>
      {data ? (
        <>
          <Tabs label="Figure" options={shown.map((one) => [one, names[one]] as const)} value={figure} onChange={show} />
          <Sum data={data} figure={figure} show={show} />
        </>
      ) : (
        <Waiting error={error} />
      )}
      <Box sx={{ display: 'flex', gap: 8, justifyContent: 'flex-end', paddingTop: 12 }}>
        <Button
          component={Link}
          to={`/stock/trail?item=${itemId}${siteId === undefined ? '' : `&site=${siteId}`}${figure === 'onHand' ? '&measure=on-hand' : ''}`}
        >
          All movements
        </Button>
        <Button onClick={close}>Close</Button>
      </Box>
    </Box>
  );
}

const signs = { plus: '', times: '×', over: '÷' } as const;

/** The few lines that come to the figure. */
function Sum({ data, figure, show }: { data: Explained; figure: Figure; show: (figure: Figure) => void }) {
  const { data: me } = useMeQuery({});
  const today = me?.company.today;
  const quantities = data.quantities.find((one) => one.figure === figure);
  const costs = data.costs.find((one) => one.figure === figure);
  const parts =
    quantities?.parts.map((part) => ({ ...part, text: quantity(part.amount) })) ??
    costs?.parts.map((part) => ({
      ...part,
      text: part.isQuantity
        ? quantity(part.amount)
        : figure === 'unitCost' && part.by === 'plus' && costs.parts.length === 1
          ? price(part.amount)
          : money(part.amount),
    })) ??
    [];
  const total = quantities ? quantity(quantities.total) : figure === 'unitCost' ? price(costs?.total ?? '') : money(costs?.total ?? '');
  const inner = { 'On hand': 'onHand', Reserved: 'reserved' } as const;
  return (
    <Table size="small" aria-label={`What ${names[figure].toLowerCase()} is made of`} sx={{ marginTop: 8 }}>
      <TableBody>
        {parts.map((part, at) => (
          <TableRow key={at}>
            <TableCell>
              {figure === 'free' && part.what in inner ? (
                <Button size="small" onClick={() => show(inner[part.what as keyof typeof inner])}>
                  {part.what}
                </Button>
              ) : (
                part.what
              )}{' '}
              {part.document ? (
                <Link className="code strong" to={documentAddress(part.document.kind, part.document.id)}>
                  {part.document.number}
                </Link>
              ) : null}
            </TableCell>
            <TableCell className="quiet">{part.day === null ? '' : shortDay(part.day, today)}</TableCell>
            <TableCell align="right" className="figure">
              {signs[part.by]} {part.by === 'plus' && at > 0 && Number(part.amount) > 0 ? `+${part.text}` : part.text}
            </TableCell>
          </TableRow>
        ))}
        {parts.length === 0 ? (
          <TableRow>
            <TableCell colSpan={3} className="quiet">
              None.
            </TableCell>
          </TableRow>
        ) : null}
      </TableBody>
      <TableFooter>
        <TableRow>
          <TableCell className="strong">{names[figure]}</TableCell>
          <TableCell />
          <TableCell align="right" className="strong">
            = {total} {quantities ? <span className="quiet">{data.unit}</span> : null}
          </TableCell>
        </TableRow>
      </TableFooter>
    </Table>
  );
}
