import CameraIcon from '@mui/icons-material/PhotoCameraOutlined';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import OutlinedInput from '@mui/material/OutlinedInput';
import { lazy, Suspense, useEffect, useLayoutEffect, useRef, useState, type InputHTMLAttributes, type KeyboardEvent, type RefObject } from 'react';
import { useNavigate } from 'react-router';
import { useFindQuery, useLazyFindQuery } from './items';
import { useDelayed } from '../kit/delayed';
import { grantedSomewhere } from '@larder/contract/rights';
import { useScans } from '../kit/scan';
import { signal } from '../kit/signal';
import { useMeQuery } from './me';
import { actions, placeOf } from './scanActions';
import { ScanOptions } from './ScanOptions';

const CameraScan = lazy(async () => ({ default: (await import('./CameraScan')).CameraScan }));
const TeachCode = lazy(async () => ({ default: (await import('./TeachCode')).TeachCode }));

/** Finds and opens anything by code or words; on a page that takes scans, an Enter gives it the code first. */
export function ScanBar() {
  const [text, setText] = useState('');
  const [active, setActive] = useState(0);
  const [missed, setMissed] = useState('');
  const [teaching, setTeaching] = useState('');
  const [camera, setCamera] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const scans = useScans();
  const q = useDelayed(text.trim(), 120);
  const { currentData } = useFindQuery({ query: { q } }, { skip: q === '' });
  const [lookUp] = useLazyFindQuery();
  const found = q === '' || text.trim() === '' ? [] : (currentData?.rows ?? []);
  const { data: me } = useMeQuery({});
  const wanted =
    text.trim() === ''
      ? []
      : actions.filter(
          ({ words, needs = 'look' }) =>
            grantedSomewhere(me?.grants ?? [], needs) &&
            text
              .toLowerCase()
              .trim()
              .split(/\s+/)
              .every((word) => words.toLowerCase().includes(word)),
        );
  const options = [
    ...found.map((row) => ({ to: placeOf(row), code: row.code, name: row.name, kind: row.kind as string })),
    ...wanted.map(({ words, to }) => ({ to, code: '', name: words, kind: 'action' })),
  ];

  const go = (to: string) => {
    setText('');
    setMissed('');
    input.current?.blur();
    void navigate(to);
  };
  const openCode = async (code: string) => {
    const { data } = await lookUp({ query: { q: code } }, true);
    const exact = data?.rows.filter((row) => row.exact) ?? [];
    signal(exact.length === 1 || data?.rows.length === 1);
    if (exact.length === 1 && exact[0]) return go(placeOf(exact[0]));
    if (exact.length === 0 && data?.rows.length === 1 && data.rows[0]) return go(placeOf(data.rows[0]));
    // Who types fast has pressed Enter before anything was found.
    const action = data?.rows.length === 0 && code === text.trim() ? wanted[0] : undefined;
    if (action) return go(action.to);
    setText(code);
    setMissed(data?.rows.length ? '' : `Nothing has the code ${code}.`);
    input.current?.focus();
  };
  useEffect(() => {
    scans.open.current = (code) => void openCode(code);
  });
  useSlash(input);
  const press = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown') setActive((now) => Math.min(now + 1, options.length - 1));
    else if (event.key === 'ArrowUp') setActive((now) => Math.max(now - 1, 0));
    else if (event.key === 'Escape') {
      setText('');
      setMissed('');
    } else if (event.key === 'Enter' && !event.ctrlKey && text.trim() !== '') {
      event.preventDefault();
      const code = text.trim();
      // Words of an action are no code of goods; what was found of words typed before says nothing of these.
      const isAction = wanted.length > 0 && (q !== code || found.length === 0);
      if (active === 0 && !isAction && scans.offer(code)) return setText('');
      const option = q === code || active > 0 ? options[active] : undefined;
      if (option) go(option.to);
      else void openCode(code);
    } else return;
  };
  return (
    <Box sx={{ position: 'relative', width: { xs: '100%', sm: 'min(470px, 40vw)' } }}>
      <OutlinedInput
        inputRef={input}
        fullWidth
        sx={{ '& .MuiOutlinedInput-notchedOutline': { borderColor: 'primary.main' } }}
        startAdornment={<ScanSign />}
        endAdornment={
          <>
            <kbd className="wide-only">/</kbd>
            <IconButton className="phone-only" aria-label="Scan with the camera" onClick={() => setCamera(true)}>
              <CameraIcon />
            </IconButton>
          </>
        }
        slotProps={{
          input: {
            'data-scanbar': 'yes',
            role: 'combobox',
            'aria-label': 'Scan bar',
            'aria-expanded': options.length > 0,
            'aria-controls': 'scan-options',
            'aria-activedescendant': options.length > 0 ? `scan-options-${active}` : undefined,
            maxLength: 200,
          } as InputHTMLAttributes<HTMLInputElement>,
        }}
        placeholder="Scan, or type an item, bin, order or action"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setActive(0);
          setMissed('');
        }}
        onKeyDown={press}
      />
      {camera ? (
        <Suspense fallback={null}>
          <CameraScan
            take={(code) => {
              if (scans.offer(code)) return true;
              // What no page wants is opened.
              setCamera(false);
              void openCode(code);
              return true;
            }}
            close={() => setCamera(false)}
          />
        </Suspense>
      ) : null}
      {teaching ? (
        <Suspense fallback={null}>
          <TeachCode
            code={teaching}
            close={(taught) => {
              setTeaching('');
              setMissed('');
              if (taught) setText('');
            }}
          />
        </Suspense>
      ) : null}
      <ScanOptions options={options} active={active} missed={missed} teach={() => setTeaching(text.trim())} go={go} />
    </Box>
  );
}

const ScanSign = () => (
  <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden="true">
    <circle cx="8" cy="8" r="6.5" fill="none" stroke="var(--damson)" strokeWidth="1.5" />
    <path d="M8 2.5v5.5h5" fill="none" stroke="var(--damson)" strokeWidth="1.5" />
  </svg>
);

/** A slash typed outside of fields goes to this one; with Ctrl from anywhere. */
function useSlash(input: RefObject<HTMLInputElement | null>): void {
  useLayoutEffect(() => {
    const press = (event: globalThis.KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && event.target.matches('input, textarea, select');
      if (event.key !== '/' || (typing && !event.ctrlKey)) return;
      event.preventDefault();
      input.current?.focus();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [input]);
}
