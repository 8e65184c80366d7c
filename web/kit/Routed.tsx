import { useCallback, type ComponentProps } from 'react';
import { RouterProvider } from 'react-router';
import { AskedNow } from './address';

type Router = ComponentProps<typeof RouterProvider>['router'];

/** The pages of a router, which know what its address asks at each moment. */
export function Routed({ router }: { router: Router }) {
  const asked = useCallback(() => router.state.location.search, [router]);
  return (
    <AskedNow value={asked}>
      <RouterProvider router={router} />
    </AskedNow>
  );
}
