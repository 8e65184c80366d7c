import * as contract from '@larder/contract/lists';
import { useState } from 'react';
import { asMade, type ColumnLayout } from '../kit/columnLayout';
import type { Laying } from '../kit/ListTable';
import { api, read, write } from './api';
import { useKeepViewMutation, useKeptViewsQuery } from './views';

/** How the person has laid out the columns of lists. */
const layoutsApi = api.injectEndpoints({
  endpoints: (build) => ({ keptLayouts: read(build, contract.keptLayouts), keepLayout: write(build, contract.keepLayout) }),
});

/**
 * The layout of a list as this person has it, on every machine; what is changed shows at once and is kept behind it.
 * Looked at by a name that the person has kept, it is the layout of that name, and a change of it is.
 */
export function useLayout(list: contract.LaidOutList, viewId: number | null): Laying {
  const { data } = layoutsApi.useKeptLayoutsQuery({});
  const { data: views } = useKeptViewsQuery({});
  const [keep] = layoutsApi.useKeepLayoutMutation();
  const [keepView] = useKeepViewMutation();
  const [own, setOwn] = useState<{ of: number | null; layout: ColumnLayout } | null>(null);
  const view = views?.rows.find(({ id, layout }) => id === viewId && layout !== null);
  const of = view?.id ?? null;
  const kept = view ? view.layout : data?.rows.find((one) => one.list === list)?.layout;
  return {
    layout: (own?.of === of ? own.layout : kept) ?? asMade,
    change: (layout) => {
      setOwn({ of, layout });
      // What somebody else keeps for everybody is laid out otherwise here only.
      if (view && !view.mine) return;
      if (view) {
        const { name, search, pinned, shared } = view;
        void keepView({ body: { list: view.list as contract.KeptList, name, search, pinned, shared, layout } });
      } else void keep({ body: { list, layout } });
    },
  };
}
