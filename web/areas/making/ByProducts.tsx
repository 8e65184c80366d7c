import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useFieldArray, useFormContext, useWatch } from 'react-hook-form';
import { fieldsOf, useReadOnly } from '../../kit/formFields';
import { Card, Stack } from '../../kit/layout';
import { LineEntry } from '../../shared/LineEntry';
import { namedItem, type BomDraft } from './bomForm';

const { Cell } = fieldsOf<BomDraft>();

/** What else comes of the same work, and by which shares its cost is spread; without shares by what all of it is worth. */
export function ByProducts() {
  const { control } = useFormContext<BomDraft>();
  const { fields, append, remove } = useFieldArray({ control, name: 'byProducts' });
  const item = useWatch<BomDraft, 'item'>({ name: 'item' });
  const isRead = useReadOnly();
  if (isRead && fields.length === 0) return null;
  return (
    <Card aria-label="What else comes of it">
      <h2>
        What else comes of it<span>offcuts, by-products; a share takes its part of the cost, none at all: by value</span>
      </h2>
      {fields.length === 0 ? null : (
        <Table aria-label="Outputs">
          <TableHead>
            <TableRow>
              <TableCell>Item</TableCell>
              <TableCell align="right">Quantity</TableCell>
              <TableCell align="right">Share</TableCell>
              <TableCell />
            </TableRow>
          </TableHead>
          <TableBody>
            <TableRow>
              <TableCell>
                <span className="code">{item?.sku ?? ''}</span>
                <span className="name">{item?.name ?? ''}</span>
              </TableCell>
              <TableCell />
              <TableCell align="right">
                <Cell number label={`Share of ${item?.sku ?? 'the item itself'}`} name="share" placeholder="by value" />
              </TableCell>
              <TableCell />
            </TableRow>
            {fields.map(({ id, sku, name }, index) => (
              <TableRow key={id}>
                <TableCell>
                  <span className="code">{sku}</span>
                  <span className="name">{name}</span>
                </TableCell>
                <TableCell align="right">
                  <Cell number label={`How many ${sku} come of it`} name={`byProducts.${index}.quantity`} />
                </TableCell>
                <TableCell align="right">
                  <Cell number label={`Share of ${sku}`} name={`byProducts.${index}.share`} placeholder="by value" />
                </TableCell>
                <TableCell align="right">
                  {isRead ? null : (
                    <Button size="small" aria-label={`Remove ${sku}`} onClick={() => remove(index)}>
                      Remove
                    </Button>
                  )}
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
      {isRead ? null : (
        <Stack pad>
          <LineEntry
            label="What else comes of it"
            takesScans={false}
            add={(found, many) => append({ ...namedItem(found), quantity: many, share: '' }, { focusName: `byProducts.${fields.length}.quantity` })}
          />
        </Stack>
      )}
    </Card>
  );
}
