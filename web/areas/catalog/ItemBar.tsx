import Button from '@mui/material/Button';
import { isStocked } from '@larder/core/catalog/kind';
import type { Item } from '@larder/contract/catalog';
import { Link } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { useMay } from '../../shared/may';
import type { Decision } from './written';

interface ItemBarProps {
  item: Item | null;
  form: { isBusy: boolean; isTyped: boolean };
  mayEdit: boolean;
  /** What is shown is there to be changed. */
  isFact: boolean;
  save: (part?: Decision) => void;
  drop: () => void;
}

/** What can be done with an item by this person: what is typed is saved first. */
export function ItemBar({ item, form, mayEdit, isFact, save, drop }: ItemBarProps) {
  const mayCorrect = useMay('stock.correct');
  if (!item)
    return (
      <BottomBar
        hint="SKU, name and unit are enough to begin with"
        next={mayEdit && (form.isTyped || isFact) ? { label: 'Set up the item', run: () => save(), disabled: form.isBusy } : undefined}
      />
    );
  const stocked = isStocked(item.kind);
  return (
    <BottomBar
      hint={form.isTyped ? 'Ctrl S saves as well' : ''}
      next={mayEdit && (form.isTyped || isFact) ? { label: `Save ${item.sku}`, run: () => save(), disabled: form.isBusy } : undefined}
    >
      {stocked && mayCorrect ? (
        <>
          <Button component={Link} to={`/stock/opening?item=${item.id}`}>
            Opening stock
          </Button>
          <Button component={Link} to={`/stock/correction?item=${item.id}`}>
            Correct
          </Button>
        </>
      ) : null}
      {stocked ? (
        <Button component={Link} to={`/outbound/returns?${new URLSearchParams({ item: String(item.id), only: item.sku })}`}>
          Returns
        </Button>
      ) : null}
      <Button component={Link} to={`/labels?items=${item.id}`}>
        Labels
      </Button>
      {mayEdit ? (
        <>
          <Button disabled={form.isBusy} onClick={drop}>
            Delete
          </Button>
          <Button disabled={form.isBusy} onClick={() => save({ retired: !item.retired })}>
            {item.retired ? 'Take back into use' : 'Retire'}
          </Button>
        </>
      ) : null}
    </BottomBar>
  );
}
