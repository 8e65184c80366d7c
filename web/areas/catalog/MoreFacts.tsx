import { fieldsOf, orNone, wholeOrNone } from '../../kit/formFields';
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

/** What is asked less often: brand, maker, measures, how long it keeps, notes, and what may be given instead. */
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
          <Field label="Shelf life, days from the day it is made" name="shelfLifeDays" read={wholeOrNone} />
          <OwnAccounts />
          <Check label="It is put together when it is ordered" name="madeToOrder" />
          <Check label="What is made of it is looked over before it is sold" name="inspected" />
          <Check label="Customers may return it" name="returnable" />
        </Fields>
        <Field label="Description" name="description" />
        <Field label="Notes" name="notes" />
      </Stack>
    </Card>
    <Substitutes />
  </>
);
