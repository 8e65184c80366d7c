-- What carriers are to bill equals what the parcels that went out were booked at, less what bills have cleared of it.
CREATE VIEW law_carriage_clearing AS
SELECT 'the account says ' || books || ', the parcels ' || open AS what
FROM (SELECT (SELECT -coalesce(sum(j.amount), 0)
    FROM journal_line j
    JOIN account a ON a.id = j.account_id
    WHERE a.purpose = 'carriage-clearing') AS books, (SELECT coalesce(sum(p.expected), 0)
    FROM parcel p
    JOIN shipment s ON s.id = p.shipment_id
    WHERE s.movement_id IS NOT NULL) - (SELECT coalesce(sum(l.cleared), 0)
    FROM bill_line l
    JOIN bill b ON b.id = l.bill_id
    WHERE l.parcel_id IS NOT NULL AND b.posted_at IS NOT NULL AND b.undone_at IS NULL) AS open) x
WHERE books <> open
UNION ALL
SELECT 'parcel ' || p.number || ' is billed, ' || sum(l.cleared) || ' of ' || p.expected
FROM parcel p
JOIN bill_line l ON l.parcel_id = p.id
JOIN bill b ON b.id = l.bill_id
WHERE b.posted_at IS NOT NULL AND b.undone_at IS NULL
GROUP BY p.id
HAVING sum(l.cleared) <> p.expected OR count(*) > 1;
