import * as contract from '@larder/contract/catalog';
import { api, read, write } from '../../app/api';

const catalog = api.injectEndpoints({
  endpoints: (build) => ({
    items: read(build, contract.listItems),
    item: read(build, contract.getItem),
    find: read(build, contract.find),
    createItem: write(build, contract.createItem),
    editItem: write(build, contract.editItem),
  }),
});
export const { useItemsQuery, useLazyItemsQuery, useItemQuery, useFindQuery, useLazyFindQuery, useCreateItemMutation, useEditItemMutation } = catalog;
