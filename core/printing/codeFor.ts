import { gs1Text } from '../codes/gs1';
import { gtinFault, looksLikeGtin } from '../codes/gtin';
import type { Symbology } from './layout';

/**
 * Which symbol a label bears for a code, and what it holds: the one asked for, where the code fits it. EAN-13 needs thirteen right digits and
 * else becomes Code 128; GS1 DataMatrix needs a GTIN and else becomes QR. `best` is EAN-13 for such codes where bars are wanted, else `usual`.
 */
export function codeFor(asked: Symbology | 'best', code: string, usual: Symbology): { symbology: Symbology; payload: string } {
  const isGtin = looksLikeGtin(code) && gtinFault(code) === null;
  const isEan = isGtin && code.length === 13;
  const symbology = asked === 'best' ? (isEan && usual === 'code128' ? 'ean13' : usual) : asked;
  if (symbology === 'ean13') return { symbology: isEan ? 'ean13' : 'code128', payload: code };
  if (symbology === 'gs1datamatrix') return isGtin ? { symbology, payload: gs1Text({ gtin: code }) } : { symbology: 'qr', payload: code };
  return { symbology, payload: code };
}
