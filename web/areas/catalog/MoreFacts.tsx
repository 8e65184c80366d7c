import { fieldsOf, orNone } from '../../kit/formFields';
import { Card, Fields, Stack } from '../../kit/layout';
import { OwnAccounts } from '../../shared/OwnAccounts';
import { Substitutes } from './Substitutes';
import type { Written } from './written';

const { Check, Field } = fieldsOf<Written>();

const measures = [
  ['weightKg', 'Weight, kg'],
  ['lengthCm', 'Length, cm'],
  ['widthCm', 'Width, cm'],
  ['heightCm', 'Height, cm'],
] as const;

/** What is asked less often: brand, maker, measures, notes, and what may be given instead. */
export const MoreFacts = () => (
  <>
    <Card aria-label="More facts">
      <h2>More facts</h2>
      <Stack pad>
        <Fields>
          <Field label="Brand" name="brand" />
          <Field label="Maker" name="maker" />
          {measures.map(([name, label]) => (
            <Field key={name} label={label} name={name} read={orNone} />
          ))}
          <OwnAccounts />
          <Check label="Customers may return it" name="returnable" />
        </Fields>
        <Field label="Description" name="description" />
        <Field label="Notes" name="notes" />
      </Stack>
    </Card>
    <Substitutes />
  </>
);
