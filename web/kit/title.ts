import { useEffect } from 'react';

/** Names the page, in the window's title. */
export function useTitle(title: string): void {
  useEffect(() => {
    document.title = `${title} · Tidy Larder`;
  }, [title]);
}
