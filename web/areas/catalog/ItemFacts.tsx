import { Card } from '../../kit/layout';
import { costMethodNames } from '@larder/core/costing/method';
import { isStocked, itemKinds } from '@larder/core/catalog/kind';
import { trackings } from '@larder/contract/catalog';
import { Choice, Field } from '../../kit/Field';
import { ReferenceChoice } from '../../shared/ReferenceChoice';
import { kindNames } from './kindNames';
import type { SheetProps } from './sheet';
import type { Written } from './written';

const costMethodWords = { average: 'Moving average', fifo: 'First in, first out', specific: 'Each serial its own' };
const trackingNames = { none: 'None', lot: 'By lot, with use-by', serial: 'By serial, each unit' };

/** What an item is, what it is bought and sold for, and how it is followed. */
export function ItemFacts({ form, put, errorAt, isNew }: SheetProps & { isNew: boolean }) {
  return (
    <Card pad fields aria-label="Facts">
      <Field label="SKU" value={form.sku} onChange={(sku) => put({ sku })} error={errorAt('sku')} autoFocus={isNew} />
      <Field label="Name" value={form.name} onChange={(name) => put({ name })} error={errorAt('name')} />
      <ReferenceChoice of="categories" value={form.categoryId} onChange={(categoryId) => put({ categoryId })} />
      <Choice
        label="Kind"
        value={form.kind}
        onChange={(value) =>
          put({ kind: value as Written['kind'], ...(isStocked(value as Written['kind']) ? {} : { tracking: 'none', costMethod: 'average' }) })
        }
        options={itemKinds.map((value) => ({ value, label: kindNames[value] }))}
        error={errorAt('kind')}
      />
      <ReferenceChoice of="units" value={form.unitId} onChange={(unitId) => put({ unitId: unitId ?? form.unitId })} error={errorAt('unitId')} />
      <Field
        label="Sales price"
        value={form.salesPrice ?? ''}
        onChange={(value) => put({ salesPrice: value.trim() === '' ? null : value })}
        error={errorAt('salesPrice')}
      />
      <Field
        label="Purchase price"
        value={form.purchasePrice ?? ''}
        onChange={(value) => put({ purchasePrice: value.trim() === '' ? null : value })}
        error={errorAt('purchasePrice')}
      />
      <ReferenceChoice of="taxes" value={form.taxCodeId} onChange={(taxCodeId) => put({ taxCodeId })} />
      {isStocked(form.kind) ? (
        <>
          <Choice
            label="Tracking"
            value={form.tracking}
            onChange={(value) => put({ tracking: value as Written['tracking'] })}
            options={trackings.map((value) => ({ value, label: trackingNames[value] }))}
            error={errorAt('tracking')}
          />
          <Choice
            label="Cost"
            value={form.costMethod ?? 'average'}
            onChange={(value) => put({ costMethod: value as Written['costMethod'] })}
            options={costMethodNames.map((value) => ({ value, label: costMethodWords[value] }))}
            error={errorAt('costMethod')}
          />
        </>
      ) : null}
    </Card>
  );
}
