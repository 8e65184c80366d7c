import * as books from '@larder/contract/books';
import { api, read } from './api';
import { useMay } from './may';

/** The accounts of the books. */
const accountsApi = api.injectEndpoints({
  endpoints: (build) => ({
    accounts: read(build, books.listAccounts),
  }),
});
export const { useAccountsQuery } = accountsApi;

/** The accounts of expenses, for those who see cost. */
export function useExpenses() {
  const { data } = useAccountsQuery({}, { skip: !useMay('costs.see', null) });
  return (data?.rows ?? []).filter(({ type }) => type === 'expense').map(({ id, code, name }) => ({ value: String(id), label: `${code} ${name}` }));
}
