import { nouns } from '@larder/contract/nouns';
import { useEffect, useSyncExternalStore } from 'react';
import { useDispatch } from 'react-redux';
import { api } from '../api';
import { useMeQuery } from '../me';
import { useSite } from '../site';
import { connection } from './connection';
import { holdAll } from './holding';
import { sendWaiting, whenSent } from './sending';
import { unsentOn } from './unsent';
import { waiting } from './waiting';

/** What is held is read again after so many milliseconds, while somebody looks. */
const every = 180_000;

/** Keeps a device of the floor going: holds what its site works with, and sends what waits as soon as the server can be reached. */
export function useFloorWork(): void {
  const dispatch = useDispatch();
  const { siteId } = useSite();
  useEffect(() => {
    const ends = [
      whenSent((changes) => void dispatch(api.util.invalidateTags([...changes]))),
      connection.whenBack(() => {
        void sendWaiting();
        dispatch(api.util.invalidateTags([...nouns]));
      }),
    ];
    void waiting.read().then(() => sendWaiting());
    return () => ends.forEach((end) => end());
  }, [dispatch]);
  useEffect(openWithoutConnection, []);
  useEffect(() => {
    const look = () => {
      if (!document.hidden && connection.lostSince() === null) void holdAll(siteId);
    };
    look();
    const again = setInterval(look, every);
    const back = connection.whenBack(look);
    const sent = whenSent(look);
    return () => {
      clearInterval(again);
      back();
      sent();
    };
  }, [siteId]);
}

/** Has the browser keep the application itself, so that it opens without a connection. Only where the page is safe from others is that possible. */
function openWithoutConnection(): void {
  if ('serviceWorker' in navigator)
    void navigator.serviceWorker.register('/sw.js').catch((error: unknown) => console.warn('The application is not kept on this device.', error));
}

/** How the connection is, and what is kept on this device of whoever is signed in. */
export function useKept() {
  const { data: me } = useMeQuery({});
  const lostSince = useSyncExternalStore(connection.subscribe, connection.lostSince);
  const rows = useSyncExternalStore(waiting.subscribe, waiting.rows);
  const mine = rows.filter(({ personId }) => personId === me?.id);
  return {
    lostSince,
    waits: mine.filter(({ refused }) => refused === null),
    refused: mine.filter(({ refused }) => refused !== null),
    others: rows.length - mine.length,
    /** Scans counted at the receiving desk that the server does not have yet. */
    scans: me ? unsentOn(me.id).waiting().length : 0,
  };
}
