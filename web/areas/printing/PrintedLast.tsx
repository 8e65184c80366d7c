import { Card, Stack } from '../../kit/layout';
import { moment } from '../../kit/format';
import { usePrintsQuery } from './api';

/** What was printed last, to be printed again. */
export function PrintedLast() {
  const { data: prints } = usePrintsQuery({});
  return (
    <Card aria-label="Printed last">
      <h2>Printed last</h2>
      <Stack pad>
        {prints?.rows.slice(0, 6).map((one) => (
          <a key={one.id} href={`/api/printing/jobs/${one.id}/pdf`} target="_blank" rel="noreferrer">
            {one.title}{' '}
            <span className="quiet">
              {one.person}, {moment(one.at)}
            </span>
          </a>
        ))}
        {prints?.rows.length === 0 ? <p className="quiet">Nothing yet.</p> : null}
      </Stack>
    </Card>
  );
}
