import { isStocked } from '@larder/core/catalog/kind';
import type { Item } from '@larder/contract/catalog';
import { useController, useWatch } from 'react-hook-form';
import { flushSync } from 'react-dom';
import { useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { AddressTabs } from '../../kit/AddressTabs';
import { useForm } from '../../kit/form';
import { ReadOnly } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { Card, PageHead, Split, Stack, Ways } from '../../kit/layout';
import { Waiting } from '../../kit/states';
import { AsOf, useAsOf } from '../../shared/AsOf';
import { AttributeSheet } from '../../shared/AttributeSheet';
import { Clashes } from '../../shared/Clashes';
import { useAttributesQuery } from '../../shared/items';
import { useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { Reminders } from '../../shared/Reminders';
import { useSite } from '../../shared/site';
import { useItemStockQuery } from '../../shared/stock';
import { useCreateItemMutation, useDeleteItemMutation, useEditItemMutation } from './api';
import { BarcodeSheet } from './BarcodeSheet';
import { ItemBar } from './ItemBar';
import { ItemDoubts } from './ItemDoubts';
import { ItemFacts } from './ItemFacts';
import { ItemHead } from './ItemHead';
import { ItemMaking } from './ItemMaking';
import { ItemPrices } from './ItemPrices';
import { sectionOf, sectionsOf, type Section } from './itemSections';
import { ItemTrail } from './ItemTrail';
import { MoreFacts } from './MoreFacts';
import { PictureCard } from './PictureCard';
import { PolicySheet } from './PolicySheet';
import { SupplierSheet } from './SupplierSheet';
import { UnitSheet } from './UnitSheet';
import { WhatIsThere } from './WhatIsThere';
import { WhatWasThere } from './WhatWasThere';
import { itemBody, writtenNames, writtenRows, type Decision, type Written } from './written';
import { useSay } from '../../shared/say';

/** An item section by section; what is typed stays while one goes through them, and is saved at once. */
export function ItemSheet({ item, first }: { item: Item | null; first: Written }) {
  const { siteId } = useSite();
  const { data: me } = useMeQuery({});
  const mayEdit = useMay('items.edit', null);
  const navigate = useNavigate();
  const address = useAddress();
  const { data: attributes } = useAttributesQuery({});
  const [create] = useCreateItemMutation();
  const [edit] = useEditItemMutation();
  const [remove] = useDeleteItemMutation();
  const say = useSay();
  const form = useForm({
    came: first,
    version: item?.version ?? null,
    rowKeys: writtenRows,
    body: itemBody,
    checkedBy: async () => (await import('@larder/contract/catalog')).createItem.body,
    reveal: (field) => flushSync(() => address.put('show', sectionOf(field))),
  });
  const kind = useWatch({ control: form.control, name: 'kind' });
  const stocked = item !== null && isStocked(item.kind);
  const { data: stock, error } = useItemStockQuery({ params: { id: item?.id ?? 0 }, query: { siteId } }, { skip: !stocked });
  const sections = sectionsOf(
    item?.kind ?? kind,
    item === null,
    (attributes?.rows ?? []).some(({ subject }) => subject === 'item'),
  );
  const section = address.choice('show', sections);
  const asOf = useAsOf(address);
  /** One that is new is set up on one page. */
  const isShown = (...those: Section[]) => those.includes(section) || (item === null && sections.some(([key]) => those.includes(key)));

  /** Saves it, with what is said of it beside what is typed. */
  const save = async (part: Decision = {}) => {
    const saved = await form.send(async (body, typed, version) => {
      if (!item) return create({ body: { ...body, ...part } });
      const result = await edit({ params: { id: item.id }, body: { ...body, ...part, version } });
      if (result.data) form.kept(typed, result.data.version);
      return result;
    });
    if (!saved || item) return;
    say({ text: `${saved.sku} is set up.` });
    void navigate(`/items/${saved.id}`, { replace: true });
  };
  /** Only what was never used can go; the server says so otherwise. */
  const drop = async () => {
    if (!item || !(await form.send((_body, _typed, version) => remove({ params: { id: item.id }, body: { version } })))) return;
    say({ text: `${item.sku} is deleted.` });
    void navigate('/items', { replace: true });
  };
  return (
    <FormFrame form={form} save={() => mayEdit && void save()}>
      <ReadOnly value={!mayEdit}>
        <Stack>
          {item ? (
            <ItemHead item={item} stock={stock} isSaved={form.isSaved} />
          ) : (
            <PageHead sx={{ margin: 0 }}>
              <h1>New item</h1>
            </PageHead>
          )}
          {item ? (
            <Ways>
              <AddressTabs label="About the item" address={address} name="show" options={sections} />
              {isShown('there') && stocked ? <AsOf address={address} /> : null}
            </Ways>
          ) : null}
          <ItemDoubts refused={form.refused} save={(part) => void save(part)} />
          {item ? <Clashes of={{ kind: 'item', id: item.id }} writing={form} names={writtenNames} /> : null}
          {item && isShown('there') && stocked && asOf !== undefined ? <WhatWasThere itemId={item.id} asOf={asOf} /> : null}
          {item && isShown('there') && asOf === undefined ? stock ? <WhatIsThere item={item} stock={stock} /> : <Waiting error={error} /> : null}
          {item && isShown('trail') ? <ItemTrail itemId={item.id} siteId={siteId} /> : null}
          {isShown('facts') ? (
            <Split>
              <Stack>
                <ItemFacts isNew={!item} />
                <MoreFacts />
              </Stack>
              <Stack>
                <PictureField />
                {isStocked(kind) ? null : (
                  <Card className="quiet" pad component="p">
                    Not kept in stock: what comes in is cost at once, and what is sold goes out with the dispatch, without a pick.
                  </Card>
                )}
                {item && !stocked ? <ItemPrices item={item} stock={undefined} /> : null}
              </Stack>
            </Split>
          ) : null}
          {isShown('codes') ? (
            <>
              <BarcodeSheet item={item} />
              <UnitSheet />
            </>
          ) : null}
          {isShown('suppliers') ? <SupplierSheet /> : null}
          {item && isShown('making') && stocked ? <ItemMaking item={item} /> : null}
          {isShown('levels') ? <PolicySheet /> : null}
          {isShown('attributes') ? <AttributeSheet subject="item" /> : null}
          {isShown('attributes') && item ? <Reminders of={{ itemId: item.id }} today={me?.company.today ?? ''} /> : null}
          <ItemBar
            item={item}
            form={form}
            mayEdit={mayEdit}
            isFact={!isShown('there', 'trail', 'making')}
            save={(part) => void save(part)}
            drop={() => void drop()}
          />
        </Stack>
      </ReadOnly>
    </FormFrame>
  );
}

function PictureField() {
  const { field } = useController<Written, 'pictureId'>({ name: 'pictureId' });
  return <PictureCard pictureId={field.value} change={field.onChange} />;
}
