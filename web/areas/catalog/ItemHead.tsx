import Box from '@mui/material/Box';
import type { Item } from '@larder/contract/catalog';
import type { ItemStock } from '@larder/contract/stock';
import { Link } from 'react-router';
import { quantity } from '../../kit/format';
import { Jar } from '../../kit/Jar';
import { PageHead, Side } from '../../kit/layout';
import { Picture } from '../../kit/Picture';
import { Saved } from '../../kit/states';
import { ExplainedFigure, useExplainKey } from '../../shared/explaining';
import { useRemindersQuery } from '../../shared/reminders';
import { ReminderSign } from '../../shared/ReminderSign';
import { kindNames } from './kindNames';

interface ItemHeadProps {
  item: Item;
  /** What is there of it; none is told of what is not kept in stock. */
  stock: ItemStock | undefined;
  isSaved: boolean;
}

/** Which item this is, and how much of it is free. */
export function ItemHead({ item, stock, isSaved }: ItemHeadProps) {
  useExplainKey(item.id);
  const { data: reminders } = useRemindersQuery({ query: { itemId: item.id } });
  const free = stock ? String(stock.sites.reduce((sum, site) => sum + Number(site.free), 0)) : null;
  return (
    <PageHead sx={{ margin: 0, alignItems: 'center' }}>
      {item.pictureId === null ? null : (
        <Box sx={{ flex: 'none' }}>
          <Picture src={`/api/catalog/pictures/${item.pictureId}/small`} size={52} />
        </Box>
      )}
      <div>
        <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'baseline', gap: '2px 12px' }}>
          <h1>{item.name}</h1>
          <span className="code quiet">{item.sku}</span>
          {reminders && reminders.rows.length > 0 ? <ReminderSign /> : null}
          {item.retired ? <span className="late">retired</span> : null}
          <Saved on={isSaved} />
        </Box>
        <span className="quiet">
          {[kindNames[item.kind], item.category, item.brand].filter(Boolean).join(', ')}
          {item.family ? (
            <>
              {'; '}
              <Link to={`/items/families/${item.family.id}`}>
                {item.family.name}: {item.family.values.join(', ')}
              </Link>
            </>
          ) : null}
        </span>
      </div>
      {stock && free !== null ? (
        <Side sx={{ gap: 12 }}>
          <Box sx={{ textAlign: 'right' }}>
            <Box component="b" className="here" sx={{ fontSize: 17 }}>
              <ExplainedFigure itemId={item.id} figure="free" className="here">
                {quantity(free)} free
              </ExplainedFigure>
            </Box>
            <div className="quiet">{stock.daysOfCover === null ? 'not sold lately' : `about ${Math.floor(stock.daysOfCover)} days`}</div>
          </Box>
          <Jar free={free} reorderPoint={stock.reorderPoint} orderUpTo={stock.orderUpTo} size={46} />
        </Side>
      ) : null}
    </PageHead>
  );
}
