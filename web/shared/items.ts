import * as attributes from '@larder/contract/attributes';
import * as contract from '@larder/contract/catalog';
import { api, list, read, write } from './api';

/** Items by words, by code and by id, and the business’s own attributes. */
const itemsApi = api.injectEndpoints({
  endpoints: (build) => ({
    items: read(build, contract.listItems),
    itemsMeant: read(build, contract.itemsMeant),
    itemList: list(build, contract.listItems),
    itemsInAll: read(build, contract.itemsInAll),
    item: read(build, contract.getItem),
    find: read(build, contract.find),
    readCode: read(build, contract.readCode),
    teachCode: write(build, contract.teachCode),
    attributes: read(build, attributes.listAttributes),
    createAttribute: write(build, attributes.createAttribute),
    editAttribute: write(build, attributes.editAttribute),
  }),
});
export const {
  useItemsQuery,
  useItemListInfiniteQuery,
  useItemsInAllQuery,
  useLazyItemsQuery,
  useLazyItemsMeantQuery,
  useItemQuery,
  useFindQuery,
  useLazyFindQuery,
  useLazyReadCodeQuery,
  useTeachCodeMutation,
  useAttributesQuery,
  useCreateAttributeMutation,
  useEditAttributeMutation,
} = itemsApi;
