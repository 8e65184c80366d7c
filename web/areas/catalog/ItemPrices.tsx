import type { Item } from '@larder/contract/catalog';
import type { ItemStock } from '@larder/contract/stock';
import Box from '@mui/material/Box';
import type { ReactNode } from 'react';
import { money, price } from '../../kit/format';
import { Card, Sums } from '../../kit/layout';
import { ExplainedFigure } from '../../shared/explaining';

/** What an item is sold and bought for, and what one of what is here has cost. What somebody may not see is left out. */
export function ItemPrices({ item, stock }: { item: Item; stock: ItemStock | undefined }) {
  const first = item.suppliers[0];
  const told = (figure: 'unitCost' | 'value', text: string) => (
    <Box component="span" sx={{ '& a': { display: 'inline-block', minHeight: 24, lineHeight: '24px' } }}>
      <ExplainedFigure itemId={item.id} figure={figure}>
        {text}
      </ExplainedFigure>
    </Box>
  );
  const rows: [string, ReactNode][] = [
    ['Sales price', item.salesPrice === null ? 'none' : price(item.salesPrice)],
    ...priced('Purchase price', item.purchasePrice),
    ...(first ? priced(`From ${first.supplier}`, first.price) : []),
    ...(stock && stock.value !== ''
      ? ([
          ['Cost of one here', told('unitCost', price(stock.unitCost))],
          ['Worth in all', told('value', money(stock.value))],
        ] satisfies [string, ReactNode][])
      : []),
  ];
  return (
    <Card aria-label="Prices">
      <h2>
        Prices<span>{item.unit === 'each' ? 'of one' : `of one ${item.unit}`}</span>
      </h2>
      <Sums sx={{ padding: '8px 14px', justifyContent: 'stretch' }}>
        {rows.map(([name, value]) => (
          <div key={name}>
            <dt>{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </Sums>
    </Card>
  );
}

const priced = (name: string, value: string | null): [string, string][] => (value === null || value === '' ? [] : [[name, price(value)]]);
