import * as contract from '@larder/contract/lists';
import { useState } from 'react';
import { asMade, type ColumnLayout } from '../kit/columnLayout';
import type { Laying } from '../kit/ListTable';
import { api, read, write } from './api';

/** How the person has laid out the columns of lists. */
const layoutsApi = api.injectEndpoints({
  endpoints: (build) => ({ keptLayouts: read(build, contract.keptLayouts), keepLayout: write(build, contract.keepLayout) }),
});

/** The layout of a list as this person has it, on every machine; what is changed shows at once and is kept behind it. */
export function useLayout(list: contract.LaidOutList): Laying {
  const { data } = layoutsApi.useKeptLayoutsQuery({});
  const [keep] = layoutsApi.useKeepLayoutMutation();
  const [own, setOwn] = useState<ColumnLayout | null>(null);
  const kept = data?.rows.find((one) => one.list === list)?.layout;
  return {
    layout: own ?? kept ?? asMade,
    change: (layout) => {
      setOwn(layout);
      void keep({ body: { list, layout } });
    },
  };
}
