import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import { count } from '../../kit/format';
import { LineEntry } from '../../shared/LineEntry';
import { useItemStockQuery } from '../../shared/stock';

/** So many chosen items are told by name; of more there is a number. */
const mostNamed = 20;

/** Items that a count is about: chosen by words, code or scan, or brought along from a list. None: all that lies there. */
export function ChosenItems({ ids, put }: { ids: readonly number[]; put: (ids: number[]) => void }) {
  const without = (id: number) => put(ids.filter((one) => one !== id));
  return (
    <>
      <Box sx={{ display: 'flex', gap: 6, flexWrap: 'wrap', alignItems: 'center', paddingBottom: ids.length > 0 ? 10 : 0 }}>
        {ids.slice(0, mostNamed).map((id) => (
          <Named key={id} id={id} remove={() => without(id)} />
        ))}
        {ids.length > mostNamed ? <span className="quiet">and {count(ids.length - mostNamed, 'more item')}</span> : null}
        {ids.length > 1 ? (
          <Button size="small" onClick={() => put([])}>
            Leave all out
          </Button>
        ) : null}
      </Box>
      <LineEntry label="Item to count" isNewLine={false} add={({ id }) => (ids.includes(id) ? undefined : put([...ids, id]))} />
    </>
  );
}

function Named({ id, remove }: { id: number; remove: () => void }) {
  const { data } = useItemStockQuery({ params: { id }, query: {} });
  return <Chip label={data ? `${data.sku} ${data.name}` : '…'} onDelete={remove} />;
}
