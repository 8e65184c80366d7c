import Box from '@mui/material/Box';

/** A small square picture of what the words beside it name already. */
export const Picture = ({ src, size }: { src: string; size: number }) => (
  <Box
    component="img"
    src={src}
    alt=""
    loading="lazy"
    sx={{ order: 3, width: size, height: size, marginLeft: 'auto', borderRadius: `${Math.round(size / 7)}px`, objectFit: 'cover' }}
  />
);
