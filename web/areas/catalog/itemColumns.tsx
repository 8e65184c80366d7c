import { Picture } from '../../kit/Picture';
import { CellCheck } from '../../kit/Check';
import type { Attribute } from '@larder/contract/attributes';
import { type ItemRow } from '@larder/contract/catalog';
import { price, quantity } from '../../kit/format';
import { Jar } from '../../kit/Jar';
import type { Column } from '../../kit/ListTable';
import { AttributeCell } from '../../shared/AttributeCell';
import { kindNames } from './kindNames';

interface Choosing {
  chosen: readonly number[];
  toggle: (id: number) => void;
  /** All rows shown: chosen, or none of them when they all were. */
  all: { chosen: boolean; toggle: () => void };
}

export const columns = ({ chosen, toggle, all }: Choosing, own: readonly Attribute[], today: string): Column<ItemRow>[] => [
  {
    name: 'Chosen',
    head: <CellCheck label="Choose all shown" checked={all.chosen} onChange={all.toggle} />,
    wide: true,
    cell: (row) => <CellCheck label={`Choose ${row.sku}`} checked={chosen.includes(row.id)} onChange={() => toggle(row.id)} />,
  },
  {
    name: '',
    cell: (row) =>
      row.pictureId === null && row.kind !== 'stocked' ? null : row.pictureId === null ? (
        <Jar free={row.free} reorderPoint={row.reorderPoint} orderUpTo={row.orderUpTo} />
      ) : (
        <Picture src={`/api/catalog/pictures/${row.pictureId}/small`} size={32} />
      ),
  },
  { name: 'SKU', sort: 'sku', text: (row) => row.sku, cell: (row) => <span className="code">{row.sku}</span> },
  {
    name: 'Name',
    sort: 'name',
    cell: (row) => (
      <>
        {row.name}
        {row.retired ? <small className="late"> retired</small> : null}
        {row.kind === 'stocked' ? null : <small className="quiet"> {kindNames[row.kind].toLowerCase()}</small>}
        {row.tracking === 'none' ? null : <small className="quiet"> by {row.tracking}</small>}
      </>
    ),
  },
  { name: 'Category', wide: true, cell: (row) => <span className="quiet">{row.category}</span> },
  ...own.map((attribute): Column<ItemRow> => ({
    name: attribute.name,
    wide: true,
    cell: (row) => <AttributeCell attribute={attribute} value={row.attributes[String(attribute.id)]} today={today} />,
  })),
  { name: 'Sales price', sort: 'salesPrice', number: true, wide: true, cell: (row) => (row.salesPrice === null ? '' : price(row.salesPrice)) },
  { name: 'On hand', sort: 'onHand', number: true, cell: (row) => quantity(row.onHand, true) },
  { name: 'Free', sort: 'free', number: true, cell: (row) => (row.kind === 'stocked' ? <b>{quantity(row.free)}</b> : '') },
];
