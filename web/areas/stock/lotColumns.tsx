import type { Attribute } from '@larder/contract/attributes';
import { type LotRow } from '@larder/contract/lots';
import { due, quantity, shortDay } from '../../kit/format';
import type { Column } from '../../kit/ListTable';
import { AttributeCell } from '../../shared/AttributeCell';
import { ReminderSign } from '../../shared/ReminderSign';

export const columns = (own: readonly Attribute[], today: string): Column<LotRow>[] => [
  {
    name: 'Lot or serial',
    text: (row) => row.code,
    sort: 'code',
    cell: (row) => (
      <>
        <span className="code strong">{row.code}</span>
        {row.reminds ? <ReminderSign /> : null}
        {row.tag ? <span className="name quiet">tag {row.tag}</span> : null}
      </>
    ),
  },
  {
    name: 'Item',
    sort: 'sku',
    cell: (row) => (
      <>
        <span className="code">{row.sku}</span>
        <span className="name">{row.name}</span>
      </>
    ),
  },
  {
    name: 'Use by',
    sort: 'useBy',
    cell: (row) =>
      row.useBy === null ? (
        ''
      ) : (
        <span className={row.pastUse ? 'late nowrap' : 'nowrap'}>{row.pastUse ? `past, ${shortDay(row.useBy, today)}` : due(row.useBy, today)}</span>
      ),
  },
  { name: 'Condition', wide: true, cell: (row) => <span className="quiet">{row.condition}</span> },
  {
    name: 'Warranty until',
    sort: 'warrantyUntil',
    wide: true,
    cell: (row) =>
      row.warrantyUntil === null ? '' : <span className={row.warrantyUntil < today ? 'quiet nowrap' : 'nowrap'}>{shortDay(row.warrantyUntil, today)}</span>,
  },
  ...own.map((attribute): Column<LotRow> => ({
    name: attribute.name,
    wide: true,
    cell: (row) => <AttributeCell attribute={attribute} value={row.attributes[String(attribute.id)]} today={today} />,
  })),
  { name: 'Here', number: true, cell: (row) => <b>{quantity(row.quantity, true)}</b> },
  { name: 'Where', wide: true, cell: (row) => <span className="quiet nowrap">{row.where}</span> },
];
