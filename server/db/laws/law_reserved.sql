-- Reserved never exceeds on hand.
CREATE VIEW law_reserved AS
SELECT 'item ' || item_id || ' at site ' || site_id || ': ' || reserved || ' of ' || on_hand AS what
FROM item_site
WHERE reserved > on_hand OR reserved < 0;
