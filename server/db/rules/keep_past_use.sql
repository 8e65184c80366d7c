-- A lot that passes its use-by day is no longer on hand, and is again when the day was wrong.
CREATE OR REPLACE FUNCTION keep_past_use() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE item_site s SET on_hand = s.on_hand + net.quantity, quarantine = s.quarantine - net.quantity FROM (
    SELECT p.site_id, sum(b.quantity) * CASE WHEN NEW.past_use THEN -1 ELSE 1 END AS quantity FROM balance b JOIN place p ON p.id = b.place_id
    WHERE b.item_id = NEW.item_id AND b.lot_id = NEW.id AND p.kind = 'bin' AND p.sellable GROUP BY 1) net
  WHERE s.item_id = NEW.item_id AND s.site_id = net.site_id;
  UPDATE pool SET on_hand = pool.on_hand + net.quantity, quarantine = pool.quarantine - net.quantity FROM (
    SELECT coalesce(sum(b.quantity), 0) * CASE WHEN NEW.past_use THEN -1 ELSE 1 END AS quantity FROM balance b JOIN place p ON p.id = b.place_id
    WHERE b.item_id = NEW.item_id AND b.lot_id = NEW.id AND p.kind = 'bin' AND p.sellable) net
  WHERE pool.item_id = NEW.item_id;
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER lot_past_use AFTER UPDATE OF past_use ON lot FOR EACH ROW WHEN (OLD.past_use IS DISTINCT FROM NEW.past_use) EXECUTE FUNCTION keep_past_use();
