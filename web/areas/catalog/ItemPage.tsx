import { useMay } from '../../shared/may';
import Button from '@mui/material/Button';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { Link, useNavigate, useParams } from 'react-router';
import { isStocked } from '@larder/core/catalog/kind';
import type { Item } from '@larder/contract/catalog';
import { useSite } from '../../shared/site';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { refusalOf } from '../../kit/draft';
import { Refused, Saved, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useReferenceQuery } from '../../shared/reference';
import { StockPeek } from '../../shared/StockPeek';
import { useCreateItemMutation, useDeleteItemMutation, useEditItemMutation } from './api';
import { useItemQuery } from '../../shared/items';
import { useWriting } from '../../kit/writing';
import { Clashes } from '../../shared/Clashes';
import { AttributeSheet } from '../../shared/AttributeSheet';
import { BarcodeSheet } from './BarcodeSheet';
import { ItemFacts } from './ItemFacts';
import { MoreFacts } from './MoreFacts';
import { PictureCard } from './PictureCard';
import { PolicySheet } from './PolicySheet';
import { SupplierSheet } from './SupplierSheet';
import { UnitSheet } from './UnitSheet';
import { itemBody, newItem, writtenItem, writtenNames, writtenRows, type Written } from './written';

/** One item: its facts to see and change, and its stock beside them. `new` sets one up. */
export function ItemPage() {
  const { id = 'new' } = useParams();
  const isNew = id === 'new';
  const { data, error } = useItemQuery({ params: { id: Number(id) } }, { skip: isNew });
  const { data: reference } = useReferenceQuery({});
  useTitle(isNew ? 'New item' : (data?.sku ?? 'Item'));
  if (!reference || (!isNew && !data)) return <Waiting error={error} />;
  const first = isNew ? newItem(reference.units[0]?.id ?? 0, reference.taxes[0]?.id ?? null) : writtenItem(data as Item);
  return <ItemSheet key={isNew ? 'new' : data?.id} item={isNew ? null : (data as Item)} first={first} />;
}

function ItemSheet({ item, first }: { item: Item | null; first: Written }) {
  const { siteId } = useSite();
  const mayEdit = useMay('items.edit', null);
  const mayCorrect = useMay('stock.correct');
  const navigate = useNavigate();
  const writing = useWriting(first, item?.version ?? null, writtenRows);
  const { form, put } = writing;
  const [create, creating] = useCreateItemMutation();
  const [edit, editing] = useEditItemMutation();
  const [remove, removing] = useDeleteItemMutation();
  const { refused, problem, busy, at: errorAt } = refusalOf(creating, editing, removing);
  const save = async (part: Partial<Written> = {}) => {
    const sent = { ...form, ...part };
    const body = itemBody(sent);
    if (item) {
      const result = await edit({ params: { id: item.id }, body: { ...body, version: item.version } });
      if (!result.data) return;
      put(part);
      writing.kept(sent, result.data.version);
    } else {
      const result = await create({ body });
      if (result.data) void navigate(`/items/${result.data.id}`, { replace: true });
    }
  };
  /** Only what was never used can go; the server says so otherwise. */
  const drop = async () => {
    if (!item) return;
    const result = await remove({ params: { id: item.id }, body: { version: item.version } });
    if (!result.error) void navigate('/items', { replace: true });
  };
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>{item ? item.name : 'New item'}</h1>
          {item ? <span className="code quiet">{item.sku}</span> : null}
          {item?.family ? (
            <Link className="quiet" to={`/items/families/${item.family.id}`}>
              of {item.family.name}: {item.family.values.join(', ')}
            </Link>
          ) : null}
          {item?.retired ? <span className="late">retired</span> : null}
          <Saved on={writing.isSaved} />
        </PageHead>
        {problem?.asks.includes('shared-barcode') ? (
          <Asking
            question={`${problem.title} On both, a scan asks which is meant.`}
            answers={[{ label: 'Keep it on both', run: () => void save({ sharedBarcodes: true }) }]}
          />
        ) : problem?.asks.includes('odd-barcode') ? (
          <Asking question={problem.title} answers={[{ label: 'Keep it as a code of our own', run: () => void save({ oddBarcodes: true }) }]} />
        ) : problem?.asks.includes('retired-in-use') ? (
          <Asking question={problem.title} answers={[{ label: 'Retire it all the same', run: () => void save({ retired: true, retiredInUse: true }) }]} />
        ) : (
          <Refused error={refused} />
        )}
        {item ? <Clashes of={{ kind: 'item', id: item.id }} writing={writing} names={writtenNames} /> : null}
        <ItemFacts form={form} put={put} errorAt={errorAt} isNew={!item} />
        <BarcodeSheet item={item} dirty={writing.isTyped} form={form} put={put} errorAt={errorAt} />
        <UnitSheet form={form} put={put} errorAt={errorAt} />
        <SupplierSheet rows={form.suppliers} change={(suppliers) => put({ suppliers })} errorAt={errorAt} />
        {isStocked(form.kind) ? <PolicySheet rows={form.policies} change={(policies) => put({ policies })} errorAt={errorAt} /> : null}
        <AttributeSheet subject="item" values={form.attributes} change={(attributes) => put({ attributes })} errorAt={errorAt} />
        <MoreFacts form={form} put={put} errorAt={errorAt} />
      </Stack>
      <Stack>
        <PictureCard pictureId={form.pictureId} change={(pictureId) => put({ pictureId })} />
        {item && isStocked(item.kind) ? (
          <StockPeek itemId={item.id} siteId={siteId} picture={false} />
        ) : !isStocked(form.kind) ? (
          <Card className="quiet" pad component="p">
            Not kept in stock: what comes in is cost at once, and what is sold goes out with the dispatch, without a pick.
          </Card>
        ) : (
          <Card className="quiet" pad component="p">
            Stock shows here once the item is there: what lies where, what is reserved, what comes.
          </Card>
        )}
      </Stack>
      <BottomBar
        hint={item ? '' : 'SKU, name and unit are enough to begin with'}
        next={mayEdit ? { label: item ? `Save ${item.sku}` : 'Set up the item', run: () => void save(), disabled: busy } : undefined}
      >
        {item ? (
          <>
            {isStocked(item.kind) && mayCorrect ? (
              <Button component={Link} to={`/stock/opening?item=${item.id}`}>
                Opening stock
              </Button>
            ) : null}
            <Button component={Link} to={`/labels?items=${item.id}`}>
              Labels
            </Button>
            {mayEdit ? (
              <>
                <Button disabled={busy} onClick={() => void drop()}>
                  Delete
                </Button>
                <Button disabled={busy} onClick={() => void save({ retired: !item.retired })}>
                  {item.retired ? 'Take back into use' : 'Retire'}
                </Button>
              </>
            ) : null}
          </>
        ) : null}
      </BottomBar>
    </Split>
  );
}
