import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { Item, ItemForm } from '@larder/contract/catalog';
import { useSite } from '../../app/site';
import { BottomBar } from '../../kit/BottomBar';
import { refusalOf } from '../../kit/draft';
import { Choice, Field } from '../../kit/Field';
import { plainPrice } from '../../kit/format';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useReferenceQuery } from '../setup/api';
import { StockPeek } from '../stock/StockPeek';
import { useCreateItemMutation, useEditItemMutation, useItemQuery } from './api';
import { PolicySheet } from './PolicySheet';
import { SupplierSheet, type SupplierRow } from './SupplierSheet';

/** One item: its facts to see and change, and its stock beside them. `new` sets one up. */
export function ItemPage() {
  const { id = 'new' } = useParams();
  const isNew = id === 'new';
  const { data, error } = useItemQuery({ params: { id: Number(id) } }, { skip: isNew });
  const { data: reference } = useReferenceQuery({});
  useTitle(isNew ? 'New item' : (data?.sku ?? 'Item'));
  if (!reference || (!isNew && !data)) return <Waiting error={error} />;
  return (
    <ItemSheet
      key={`${id} ${data?.version ?? 0}`}
      item={isNew ? null : (data as Item)}
      unitId={reference.units[0]?.id ?? 0}
      taxCodeId={reference.taxes[0]?.id ?? null}
    />
  );
}

type Written = Omit<ItemForm, 'suppliers'> & { suppliers: SupplierRow[] };

function formOf(item: Item | null, unitId: number, taxCodeId: number | null): Written {
  if (!item)
    return {
      sku: '',
      name: '',
      description: '',
      categoryId: null,
      unitId,
      brand: '',
      salesPrice: null,
      purchasePrice: null,
      taxCodeId,
      barcodes: [],
      suppliers: [],
      policies: [],
    };
  const padded = (value: string | null) => (value === null ? null : plainPrice(value));
  return {
    ...item,
    salesPrice: padded(item.salesPrice),
    purchasePrice: padded(item.purchasePrice),
    policies: item.policies.map(({ bin: _bin, ...row }) => row),
  };
}

function ItemSheet({ item, unitId, taxCodeId }: { item: Item | null; unitId: number; taxCodeId: number | null }) {
  const { siteId } = useSite();
  const navigate = useNavigate();
  const { data: reference } = useReferenceQuery({});
  const [form, setForm] = useState(() => formOf(item, unitId, taxCodeId));
  const [barcodes, setBarcodes] = useState(form.barcodes.join(', '));
  const [create, creating] = useCreateItemMutation();
  const [edit, editing] = useEditItemMutation();
  const [saved, setSaved] = useState(false);
  const { refused, busy, at: errorAt } = refusalOf(creating, editing);
  const put = (part: Partial<Written>) => {
    setSaved(false);
    setForm({ ...form, ...part });
  };
  const save = async () => {
    const body = { ...form, barcodes: barcodes.split(/[\s,;]+/).filter((code) => code !== '') };
    if (item) {
      const result = await edit({ params: { id: item.id }, body: { ...body, version: item.version } });
      if (!result.error) setSaved(true);
    } else {
      const result = await create({ body });
      if (result.data) void navigate(`/items/${result.data.id}`, { replace: true });
    }
  };
  const options = (rows: readonly { id: number; name: string }[] | undefined) => (rows ?? []).map((row) => ({ value: String(row.id), label: row.name }));
  return (
    <div className="split">
      <div className="stack">
        <div className="head" style={{ margin: 0 }}>
          <h1>{item ? item.name : 'New item'}</h1>
          {item ? <span className="code quiet">{item.sku}</span> : null}
          {saved ? (
            <span role="status" className="here">
              Saved
            </span>
          ) : null}
        </div>
        <Refused error={refused} />
        <section className="card pad fields" aria-label="Facts">
          <Field label="SKU" value={form.sku} onChange={(sku) => put({ sku })} error={errorAt('sku')} autoFocus={!item} />
          <Field label="Name" value={form.name} onChange={(name) => put({ name })} error={errorAt('name')} />
          <Choice
            label="Category"
            value={String(form.categoryId ?? '')}
            none="None"
            onChange={(value) => put({ categoryId: Number(value) || null })}
            options={options(reference?.categories)}
          />
          <Choice
            label="Unit"
            value={String(form.unitId)}
            onChange={(value) => put({ unitId: Number(value) })}
            options={options(reference?.units)}
            error={errorAt('unitId')}
          />
          <Field label="Barcodes" value={barcodes} onChange={setBarcodes} error={errorAt('barcodes')} placeholder="several apart by commas" />
          <Field label="Brand" value={form.brand} onChange={(brand) => put({ brand })} error={errorAt('brand')} />
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
          <Choice
            label="Tax"
            value={String(form.taxCodeId ?? '')}
            none="None"
            onChange={(value) => put({ taxCodeId: Number(value) || null })}
            options={options(reference?.taxes)}
          />
          <Choice label="Tracking" value="none" onChange={() => undefined} options={[{ value: 'none', label: 'None' }]} disabled />
        </section>
        <SupplierSheet rows={form.suppliers} change={(suppliers) => put({ suppliers })} errorAt={errorAt} />
        <PolicySheet rows={form.policies} change={(policies) => put({ policies })} errorAt={errorAt} />
      </div>
      {item ? (
        <StockPeek itemId={item.id} siteId={siteId} />
      ) : (
        <p className="card pad quiet">Stock shows here once the item is there: what lies where, what is reserved, what comes.</p>
      )}
      <BottomBar
        hint={item ? '' : 'SKU, name and unit are enough to begin with'}
        next={{ label: item ? `Save ${item.sku}` : 'Set up the item', run: () => void save(), disabled: busy }}
      />
    </div>
  );
}
