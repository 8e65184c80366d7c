import { BarcodeDetector, prepareZXingModule } from 'barcode-detector/ponyfill';
import wasm from 'zxing-wasm/reader/zxing_reader.wasm?url';

// The reader's own part ships with the application: nothing is fetched from elsewhere.
prepareZXingModule({ overrides: { locateFile: (path: string, prefix: string) => (path.endsWith('.wasm') ? wasm : prefix + path) } });

/** Reads the codes in a picture, or in what a camera shows: linear and square ones alike. */
export async function readCodes(picture: ImageBitmapSource): Promise<string[]> {
  const detector = new BarcodeDetector({ formats: ['code_128', 'code_39', 'ean_13', 'ean_8', 'upc_a', 'upc_e', 'itf', 'qr_code', 'data_matrix'] });
  return (await detector.detect(picture)).map(({ rawValue }) => rawValue);
}
