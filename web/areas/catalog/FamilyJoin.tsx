import Button from '@mui/material/Button';
import { Card, Fields, Stack } from '../../kit/layout';
import { useState } from 'react';
import type { Family } from '@larder/contract/families';
import { refusalOf } from '../../kit/draft';
import { Choice, Field } from '../../kit/Field';
import { Refused } from '../../kit/states';
import { LineEntry } from '../../shared/LineEntry';
import { useJoinFamilyMutation } from './api';

/** Chosen for a value that the axis does not have yet. */
const another = 'another value';

/** Puts a loose item into the family by its values; one that is new to an axis makes no other item. */
export function FamilyJoin({ family }: { family: Family }) {
  const [item, setItem] = useState<{ id: number; sku: string; name: string } | null>(null);
  const [chosen, setChosen] = useState<Record<number, string>>({});
  const [fresh, setFresh] = useState<Record<number, string>>({});
  const [join, joining] = useJoinFamilyMutation();
  const { refused, busy, at: errorAt } = refusalOf(joining);
  const valueOf = (at: number) => chosen[at] ?? family.axisValues[at]?.values[0]?.name ?? '';
  const values = family.axisValues.map((_, at) => (valueOf(at) === another ? (fresh[at] ?? '') : valueOf(at)));
  const take = async () => {
    if (!item || (await join({ params: { id: family.id }, body: { items: [{ itemId: item.id, values }] } })).error) return;
    setItem(null);
    setChosen({});
    setFresh({});
  };
  return (
    <Card aria-label="Add an item that is there already">
      <h2>Add an item that is there already</h2>
      <Stack pad>
        <Refused error={refused} />
        <LineEntry label="Item" takesScans={false} add={setItem} />
        {item ? (
          <Fields sx={{ alignItems: 'end' }}>
            <b>
              <span className="code">{item.sku}</span> {item.name}
            </b>
            {family.axisValues.map((axis, at) => (
              <Stack key={axis.name}>
                <Choice
                  label={axis.name}
                  value={valueOf(at)}
                  onChange={(value) => setChosen({ ...chosen, [at]: value })}
                  options={[...axis.values.map(({ name }) => name), another].map((name) => ({ value: name, label: name }))}
                />
                {valueOf(at) === another ? (
                  <Field
                    label={`Another value of ${axis.name}`}
                    value={fresh[at] ?? ''}
                    onChange={(value) => setFresh({ ...fresh, [at]: value })}
                    error={errorAt(`items.0.values.${at}`)}
                  />
                ) : null}
              </Stack>
            ))}
            <Button disabled={busy} onClick={() => void take()}>
              Add it to the family
            </Button>
          </Fields>
        ) : null}
      </Stack>
    </Card>
  );
}
