import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import { CellCheck } from '../../kit/Check';
import { Link } from 'react-router';
import { combinations } from '@larder/core/catalog/family';
import type { Family } from '@larder/contract/families';
import { price, quantity } from '../../kit/format';

/** The last axis across, the others down; a combination that was never made is left blank. */
export function MemberGrid({ family }: { family: Family }) {
  const axes = family.axisValues;
  const across = axes.at(-1);
  const down = axes.length > 1 ? combinations(axes.slice(0, -1).map(({ name, values }) => ({ name, values }))) : [[]];
  const memberOf = (names: readonly string[]) =>
    family.list.find(({ valueIds }) => valueIds.every((valueId, at) => axes[at]?.values.find(({ id }) => id === valueId)?.name === names[at]));
  return (
    <Card component="div" sx={{ overflowX: 'auto' }}>
      <Table aria-label="Members axis by axis">
        <TableHead>
          <TableRow>
            <TableCell>
              {axes
                .slice(0, -1)
                .map(({ name }) => name)
                .join(' / ')}
            </TableCell>
            {across?.values.map((value) => (
              <TableCell key={value.id} align="right">
                {value.name}
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {down.map((values) => (
            <TableRow key={values.map(({ name }) => name).join()}>
              <TableCell className="strong">{values.map(({ name }) => name).join(', ') || 'free'}</TableCell>
              {across?.values.map((value) => {
                const member = memberOf([...values.map(({ name }) => name), value.name]);
                return (
                  <TableCell key={value.id} align="right">
                    {member ? (
                      <Link className={`figure ${member.retired ? 'quiet' : ''}`} to={`/items/${member.itemId}`} title={member.sku}>
                        {quantity(member.free)}
                      </Link>
                    ) : null}
                  </TableCell>
                );
              })}
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}

/** Facts whose name is no word yet. */
const factWords: Record<string, string> = { categoryId: 'category', unitId: 'unit', taxCodeId: 'tax', returnable: 'returns' };

export function MemberList({ family, chosen, toggle }: { family: Family; chosen: readonly number[]; toggle: (itemId: number) => void }) {
  return (
    <Card component="div">
      <Table aria-label="Members">
        <TableHead>
          <TableRow>
            <TableCell />
            <TableCell>SKU</TableCell>
            <TableCell>Name</TableCell>
            <TableCell align="right">Sales price</TableCell>
            <TableCell align="right">On hand</TableCell>
            <TableCell align="right">Free</TableCell>
            <TableCell>Differs in</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {family.list.map((member) => (
            <TableRow key={member.itemId}>
              <TableCell>
                <CellCheck label={`Choose ${member.sku}`} checked={chosen.includes(member.itemId)} onChange={() => toggle(member.itemId)} />
              </TableCell>
              <TableCell>
                <Link className="code" to={`/items/${member.itemId}`}>
                  {member.sku}
                </Link>
              </TableCell>
              <TableCell>
                {member.name} {member.retired ? <small className="late">retired</small> : null}
              </TableCell>
              <TableCell align="right">{member.salesPrice === null ? '' : price(member.salesPrice)}</TableCell>
              <TableCell align="right">{quantity(member.onHand, true)}</TableCell>
              <TableCell className="strong" align="right">
                {quantity(member.free)}
              </TableCell>
              <TableCell className="quiet">{member.ownFacts.map((fact) => factWords[fact] ?? fact).join(', ')}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
