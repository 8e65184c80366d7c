-- Figures per item and site equal their balances, reservations and open lines, and add up per item.
CREATE VIEW law_figures AS
SELECT 'item ' || item_id || ' at site ' || site_id AS what
FROM ( SELECT item_id, site_id, on_hand, reserved, on_order, coming, short, quarantine, bench, in_transit, on_loan, in_work
  FROM item_site
  UNION ALL
  SELECT b.item_id, p.site_id, CASE WHEN p.kind = 'bin' AND x.sold THEN -b.quantity ELSE 0 END, 0, 0, 0, 0, CASE WHEN p.kind = 'bin' AND NOT x.sold
    THEN -b.quantity ELSE 0 END, CASE p.kind WHEN 'bench' THEN -b.quantity ELSE 0 END, CASE p.kind WHEN 'transit' THEN -b.quantity ELSE 0 END,
    CASE p.kind WHEN 'holder' THEN -b.quantity ELSE 0 END, CASE p.kind WHEN 'in-work' THEN -b.quantity ELSE 0 END
  FROM balance b
  JOIN place p ON p.id = b.place_id
  LEFT JOIN lot l ON l.id = b.lot_id
  CROSS JOIN LATERAL (SELECT p.sellable AND NOT coalesce(l.past_use, false) AS sold) x
  WHERE p.site_id IS NOT NULL AND p.owned
  UNION ALL
  SELECT item_id, site_id, 0, -quantity, 0, 0, 0, 0, 0, 0, 0, 0
  FROM reservation
  UNION ALL
  SELECT item_id, brings_to_id, 0, 0, CASE WHEN kind <> 'transfer' THEN -incoming ELSE 0 END, CASE WHEN kind = 'transfer' THEN -incoming ELSE 0 END, 0, 0, 0, 0, 0, 0
  FROM document_line
  WHERE incoming <> 0
  UNION ALL
  SELECT item_id, site_id, 0, 0, 0, 0, -short, 0, 0, 0, 0, 0
  FROM document_line) x
GROUP BY item_id, site_id
HAVING sum(on_hand) <> 0 OR sum(reserved) <> 0 OR sum(on_order) <> 0 OR sum(coming) <> 0 OR sum(short) <> 0 OR sum(quarantine) <> 0 OR sum(bench) <> 0
  OR sum(in_transit) <> 0 OR sum(on_loan) <> 0 OR sum(in_work) <> 0
UNION ALL
SELECT 'item ' || item_id || ' over all sites'
FROM ( SELECT item_id, on_hand, reserved, on_order, in_transit, short, quarantine, on_loan
  FROM pool
  UNION ALL
  SELECT item_id, -on_hand, -reserved, -on_order, -in_transit, -short, -quarantine, -on_loan
  FROM item_site) y
GROUP BY item_id
HAVING sum(on_hand) <> 0 OR sum(reserved) <> 0 OR sum(on_order) <> 0 OR sum(in_transit) <> 0 OR sum(short) <> 0 OR sum(quarantine) <> 0 OR sum(on_loan) <> 0;
