/** Larkmoor Bee Supply: a made-up business, its people, parties and goods. Everything here is invented. */

export const people = [
  { name: 'Ines Marlow', email: 'ines@larkmoor.example', role: 'Owner' },
  { name: 'Tom Aldous', email: 'tom@larkmoor.example', role: 'Floor' },
  { name: 'Priya Sand', email: 'priya@larkmoor.example', role: 'Sales desk' },
  { name: 'Wim Achter', email: 'wim@larkmoor.example', role: 'Stock controller' },
  { name: 'Nell Bowyer', email: 'nell@larkmoor.example', role: 'Onlooker' },
];
export const demoPassword = 'larder-demo';

export const sites = [
  { code: 'BARN', name: 'Barn store', share: 0.62 },
  { code: 'HARB', name: 'Harbour shop', share: 0.3 },
  { code: 'VAN', name: 'Market van', share: 0.08 },
];

export const departments = [
  { code: 'SHOP', name: 'Shop' },
  { code: 'WORK', name: 'Workshop' },
  { code: 'FAIR', name: 'Fairs and courses' },
];

export const suppliers = [
  { name: 'Hexley Joinery', leadDays: 9 },
  { name: 'Brightwick Glass', leadDays: 7 },
  { name: 'Tallow & Wick', leadDays: 6 },
  { name: 'Ashgrove Metalworks', leadDays: 12 },
  { name: 'Pennywell Mill', leadDays: 4 },
  { name: 'Moorhen Veterinary', leadDays: 5 },
  { name: 'Kestrel Textiles', leadDays: 14 },
  { name: 'Fernhill Plastics', leadDays: 8 },
  { name: 'Dunlow Hardware', leadDays: 3 },
  { name: 'Cobblewood Tools', leadDays: 10 },
  { name: 'Saltmarsh Packaging', leadDays: 6 },
  { name: 'Rowe & Daughter Print', leadDays: 7 },
];

export const customers = [
  'Marsh End Honey',
  'Copse Lane School',
  'Vale Beekeepers',
  'Ashby Club',
  'Thornfield Apiaries',
  'Old Mill Tearoom',
  'Greenacre Farm Shop',
  'Brook Street Deli',
  'Harrow Hill Honey',
  'Samphire Kitchen',
  'Lower Wood Bees',
  'Penny Lark',
  'Fenwick Estate',
  'Two Ponds Smallholding',
  'Windle Garden Centre',
  'St Brannock Abbey',
  'Coldharbour Hives',
  'Merrin & Sons',
  'Tidewater Candles',
  'Larkspur Gifts',
  'Upper Dene Apiary',
  'Hazel Court',
  'Quarry Bank Bees',
  'Bramble Patch',
  'Westerley Honey',
  'Cider Loft',
  'Oakhanger Club',
  'Finch & Field',
  'Sallow Meadow',
  'Kingsmead Allotments',
  'Drift House',
  'Potter Row Stores',
  'Elm Tree Nursery',
  'Ropewalk Market',
  'Heather Ridge Bees',
  'Swan Lock Boats',
  'Chalkpit Apiaries',
  'Ivy Cottage Honey',
  'Millstone Bakery',
  'Rushbrook Hives',
];

const streets = ['Weir Lane', 'Chapel Hill', 'Orchard Way', 'Ferry Road', 'Mill Bank', 'Church Row', 'Long Meadow', 'Quay Street', 'Tanner’s Yard'];
const towns = [
  ['Larkmoor', 'LM'],
  ['Lickwater', 'LK'],
  ['Hobbs Bay', 'HB'],
  ['Wendle', 'WD'],
  ['Crannock', 'CR'],
  ['Larkmoor', 'LM'],
  ['Skerrow', 'IS'],
] as const;
/** The address of a customer: a street and a town, with its postcode. */
export function addressOf(name: string, index: number): string {
  const [town, area] = towns[index % towns.length] as (typeof towns)[number];
  return `${name}\n${3 + ((index * 17) % 80)} ${streets[index % streets.length] ?? ''}\n${town} ${area}${1 + (index % 18)}`;
}

type Season = 'spring' | 'harvest' | 'autumn' | 'even';

/** Part of a year's demand in each month, January first, as a factor around one. */
export const seasons: Record<Season, number[]> = {
  spring: [0.4, 0.7, 1.3, 2.0, 2.2, 1.8, 1.0, 0.7, 0.5, 0.5, 0.4, 0.5],
  harvest: [0.5, 0.5, 0.6, 0.7, 0.9, 1.2, 1.8, 2.2, 1.6, 0.9, 0.6, 0.5],
  autumn: [0.9, 0.6, 0.5, 0.4, 0.4, 0.5, 0.8, 1.4, 2.0, 1.9, 1.5, 1.1],
  even: [0.8, 0.8, 0.9, 1.0, 1.1, 1.1, 1.1, 1.1, 1.1, 1.0, 1.1, 1.0],
};

export interface Goods {
  sku: string;
  name: string;
  category: string;
  supplier: string;
  unit: 'each' | 'pack';
  cost: number;
  price: number;
  /** Units sold a week over all sites, in an average month. */
  weekly: number;
  pack: number;
  season: Season;
  zeroRated?: boolean;
}

const jars = [
  { size: 114, cost: 0.22, price: 0.48, weekly: 60 },
  { size: 227, cost: 0.26, price: 0.55, weekly: 110 },
  { size: 340, cost: 0.31, price: 0.62, weekly: 190 },
  { size: 454, cost: 0.36, price: 0.72, weekly: 130 },
].flatMap(({ size, cost, price, weekly }) =>
  [
    ['GLD', 'gold', 1],
    ['WHT', 'white', 0.5],
    ['BLK', 'black', 0.3],
  ].map(([code, lid, part]): Goods => ({
    sku: `JAR-${size}-${code}`,
    name: `Honey jar ${size} g, ${lid} lid`,
    category: 'Jars and labels',
    supplier: 'Brightwick Glass',
    unit: 'each',
    cost,
    price,
    weekly: weekly * (part as number),
    pack: 48,
    season: 'harvest',
  })),
);

const hiveKinds = [
  ['NAT', 'National', 1],
  ['LNG', 'Longmoor', 0.5],
  ['DEL', 'Delham', 0.35],
] as const;
const hiveParts = [
  ['HB', 'hive box, 10 frame', 18.5, 24.5, 5, 6],
  ['SB', 'shallow box, 10 frame', 13.2, 18.9, 6, 6],
  ['FL', 'open mesh floor', 14.8, 22, 3, 4],
  ['RF', 'roof, 100 mm', 19.4, 29.5, 3, 4],
  ['CB', 'crown board', 7.1, 12.5, 3, 6],
  ['QX', 'queen excluder, wired', 8.6, 15.9, 3, 10],
] as const;
const hives = hiveKinds.flatMap(([code, kind, part]) =>
  hiveParts.map(([short, what, cost, price, weekly, pack]): Goods => ({
    sku: `${short}-${code}-10`,
    name: `${kind} ${what}`,
    category: 'Hive parts',
    supplier: short === 'QX' ? 'Ashgrove Metalworks' : 'Hexley Joinery',
    unit: 'each',
    cost,
    price,
    weekly: weekly * part,
    pack,
    season: 'spring',
  })),
);

const clothing = ['S', 'M', 'L', 'XL'].flatMap((size): Goods[] => [
  {
    sku: `SU-${size}`,
    name: `Bee suit with round veil, size ${size}`,
    category: 'Clothing',
    supplier: 'Kestrel Textiles',
    unit: 'each',
    cost: 38.4,
    price: 64,
    weekly: 0.9,
    pack: 2,
    season: 'spring',
  },
  {
    sku: `GL-${size}`,
    name: `Leather gloves, size ${size}`,
    category: 'Clothing',
    supplier: 'Kestrel Textiles',
    unit: 'each',
    cost: 8.9,
    price: 16.5,
    weekly: 1.6,
    pack: 6,
    season: 'spring',
  },
]);

const row = (
  sku: string,
  name: string,
  category: string,
  supplier: string,
  unit: Goods['unit'],
  cost: number,
  price: number,
  weekly: number,
  pack: number,
  season: Season,
  zeroRated = false,
): Goods => ({ sku, name, category, supplier, unit, cost, price, weekly, pack, season, zeroRated });

const others: Goods[] = [
  row('SM-STD', 'Smoker, stainless, standard', 'Tools', 'Ashgrove Metalworks', 'each', 11.02, 18.9, 3, 6, 'spring'),
  row('SM-LRG', 'Smoker, stainless, large', 'Tools', 'Ashgrove Metalworks', 'each', 13.4, 22.9, 1.2, 6, 'spring'),
  row('SM-COP', 'Smoker, copper', 'Tools', 'Ashgrove Metalworks', 'each', 15.6, 26.5, 0.6, 4, 'spring'),
  row('SM-FUEL', 'Smoker fuel, cotton, 1 kg', 'Tools', 'Kestrel Textiles', 'pack', 3.1, 6.2, 7, 10, 'spring'),
  row('HT-J', 'Hive tool, J-shaped', 'Tools', 'Cobblewood Tools', 'each', 4.2, 8.9, 4, 10, 'spring'),
  row('HT-STD', 'Hive tool, standard', 'Tools', 'Cobblewood Tools', 'each', 3.6, 7.5, 3, 10, 'spring'),
  row('BR-SOFT', 'Bee brush, soft', 'Tools', 'Cobblewood Tools', 'each', 2.1, 4.9, 3, 12, 'spring'),
  row('QM-BLU', 'Queen marking pen, blue', 'Tools', 'Cobblewood Tools', 'each', 1.9, 4.2, 3, 12, 'spring'),
  row('QC-10', 'Queen cages, pack of 10', 'Tools', 'Fernhill Plastics', 'pack', 4.4, 8.4, 2, 6, 'spring'),
  row('UNC-FRK', 'Uncapping fork', 'Extraction', 'Cobblewood Tools', 'each', 5.2, 10.9, 2, 6, 'harvest'),
  row('UNC-KNF', 'Uncapping knife, serrated', 'Extraction', 'Cobblewood Tools', 'each', 11.8, 21, 0.8, 4, 'harvest'),
  row('EX-4', 'Extractor, 4 frame, hand', 'Extraction', 'Ashgrove Metalworks', 'each', 168, 245, 0.3, 1, 'harvest'),
  row('EX-9', 'Extractor, 9 frame, electric', 'Extraction', 'Ashgrove Metalworks', 'each', 612, 845, 0.12, 1, 'harvest'),
  row('TK-50', 'Settling tank, 50 kg', 'Extraction', 'Ashgrove Metalworks', 'each', 74, 118, 0.4, 2, 'harvest'),
  row('STR-DBL', 'Double strainer, stainless', 'Extraction', 'Ashgrove Metalworks', 'each', 14.5, 26, 1, 4, 'harvest'),
  row('BKT-15', 'Honey bucket with lid, 15 kg', 'Extraction', 'Fernhill Plastics', 'each', 3.3, 6.4, 9, 20, 'harvest'),
  row('TAP-PL', 'Honey tap, plastic, 40 mm', 'Extraction', 'Fernhill Plastics', 'each', 2.7, 5.9, 3, 10, 'harvest'),
  row('REF-HON', 'Honey refractometer', 'Extraction', 'Cobblewood Tools', 'each', 16.8, 32, 0.5, 3, 'harvest'),
  row('FD-25', 'Winter fondant 2.5 kg', 'Feed', 'Pennywell Mill', 'each', 4.12, 7.9, 34, 24, 'autumn', true),
  row('FD-125', 'Winter fondant 12.5 kg', 'Feed', 'Pennywell Mill', 'each', 17.6, 29, 6, 6, 'autumn', true),
  row('SY-14', 'Autumn syrup 14 kg', 'Feed', 'Pennywell Mill', 'each', 14.9, 25.5, 8, 8, 'autumn', true),
  row('SUG-25', 'Granulated sugar, 25 kg sack', 'Feed', 'Pennywell Mill', 'each', 18.2, 26, 9, 10, 'autumn', true),
  row('POL-1', 'Pollen substitute patty, 1 kg', 'Feed', 'Pennywell Mill', 'each', 5.2, 9.6, 5, 10, 'spring', true),
  row('VS-10', 'Varroa strips, pack of 10', 'Treatments', 'Moorhen Veterinary', 'pack', 19.75, 31.2, 9, 10, 'autumn'),
  row('OX-350', 'Oxalic solution 350 ml', 'Treatments', 'Moorhen Veterinary', 'each', 9.8, 17.5, 5, 12, 'autumn'),
  row('THY-100', 'Thymol crystals 100 g', 'Treatments', 'Moorhen Veterinary', 'each', 4.9, 9.5, 4, 12, 'autumn'),
  row('NOS-50', 'Gut tonic 50 ml', 'Treatments', 'Moorhen Veterinary', 'each', 6.4, 12.9, 2, 12, 'autumn'),
  row('WX-DN', 'Beeswax sheet, deep, wired', 'Wax and frames', 'Tallow & Wick', 'each', 0.94, 1.55, 90, 100, 'spring'),
  row('WX-SN', 'Beeswax sheet, shallow, wired', 'Wax and frames', 'Tallow & Wick', 'each', 0.66, 1.15, 80, 100, 'spring'),
  row('WX-BLK', 'Beeswax block 1 kg', 'Wax and frames', 'Tallow & Wick', 'each', 8.4, 14.5, 4, 10, 'autumn'),
  row('FR-DN1', 'Deep frames, flat, pack of 10', 'Wax and frames', 'Hexley Joinery', 'pack', 9.2, 15.9, 9, 10, 'spring'),
  row('FR-SN4', 'Shallow frames, flat, pack of 10', 'Wax and frames', 'Hexley Joinery', 'pack', 8.4, 14.6, 9, 10, 'spring'),
  row('FN-20', 'Frame nails 20 mm', 'Wax and frames', 'Dunlow Hardware', 'pack', 1.22, 1.95, 8, 20, 'spring'),
  row('FW-250', 'Frame wire 250 g', 'Wax and frames', 'Dunlow Hardware', 'each', 3.4, 6.5, 2, 10, 'spring'),
  row('SCR-40', 'Hive screws 40 mm, box of 100', 'Wax and frames', 'Dunlow Hardware', 'pack', 2.8, 5.2, 4, 10, 'spring'),
  row('STRAP-R', 'Hive strap with ratchet', 'Hive parts', 'Dunlow Hardware', 'each', 3.9, 7.9, 5, 12, 'spring'),
  row('ENT-RED', 'Entrance reducer', 'Hive parts', 'Fernhill Plastics', 'each', 0.9, 2.4, 6, 20, 'autumn'),
  row('MG-WIRE', 'Mouse guard, wire', 'Hive parts', 'Ashgrove Metalworks', 'each', 1.4, 3.2, 6, 20, 'autumn'),
  row('FEED-RND', 'Rapid feeder, round, 2 l', 'Hive parts', 'Fernhill Plastics', 'each', 3.2, 6.9, 5, 10, 'autumn'),
  row('FEED-ASH', 'Rim feeder, timber, 10 l', 'Hive parts', 'Hexley Joinery', 'each', 16.5, 27.5, 1.5, 4, 'autumn'),
  row('NUC-POLY', 'Small starter hive, insulated', 'Hive parts', 'Fernhill Plastics', 'each', 21, 36, 1.5, 4, 'spring'),
  row('LB-HON-R', 'Honey labels, round, roll of 250', 'Jars and labels', 'Rowe & Daughter Print', 'each', 6.8, 12.5, 5, 6, 'harvest'),
  row('LB-TAMP', 'Tamper strips, roll of 500', 'Jars and labels', 'Rowe & Daughter Print', 'each', 5.4, 9.9, 4, 6, 'harvest'),
  row('BX-6', 'Jar box for 6, corrugated', 'Packaging', 'Saltmarsh Packaging', 'each', 0.42, 0.95, 45, 50, 'harvest'),
  row('BX-12', 'Jar box for 12, corrugated', 'Packaging', 'Saltmarsh Packaging', 'each', 0.58, 1.25, 40, 50, 'harvest'),
  row('BX-MAIL', 'Mailing box with inserts, 2 jars', 'Packaging', 'Saltmarsh Packaging', 'each', 1.1, 2.2, 18, 25, 'even'),
  row('CUT-BOX', 'Cut comb container', 'Packaging', 'Fernhill Plastics', 'each', 0.28, 0.6, 35, 50, 'harvest'),
  row('CND-MLD', 'Candle mould, skep', 'Candles', 'Tallow & Wick', 'each', 9.8, 18.9, 0.8, 3, 'autumn'),
  row('CND-WCK', 'Candle wick, 5 m', 'Candles', 'Tallow & Wick', 'each', 1.3, 3.1, 4, 20, 'autumn'),
  row('BOOK-1ST', 'A First Year with Bees', 'Books', 'Rowe & Daughter Print', 'each', 6.1, 12.99, 2, 6, 'even', true),
  row('BOOK-HON', 'The Honey Show Handbook', 'Books', 'Rowe & Daughter Print', 'each', 7.4, 14.99, 1, 6, 'even', true),
  row('VEIL-RND', 'Round veil, loose', 'Clothing', 'Kestrel Textiles', 'each', 7.2, 13.9, 2, 6, 'spring'),
];

export const goods: Goods[] = [...jars, ...hives, ...clothing, ...others];
