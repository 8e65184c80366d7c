-- What a layer is worth follows the changes of cost that fall on it.
CREATE OR REPLACE FUNCTION keep_layer_value() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE cost_layer c SET value = c.value + net.amount
  FROM (SELECT l.item_id, l.seq, sum(a.amount) AS amount FROM added a JOIN movement_line l ON l.id = a.movement_line_id GROUP BY 1, 2) net WHERE c.item_id = net.item_id AND c.seq = net.seq;
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER cost_change_keeps_layer AFTER INSERT ON cost_change REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_layer_value();
