-- What is left of each layer: its lines, and the changes of cost that fell on it.
CREATE OR REPLACE FUNCTION keep_layers() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE cost_layer c SET quantity = c.quantity + net.quantity, value = c.value + net.value
  FROM (SELECT item_id, layer_seq, sum(quantity) AS quantity, sum(value) AS value FROM added GROUP BY 1, 2) net WHERE c.item_id = net.item_id AND c.seq = net.layer_seq;
  INSERT INTO cost_layer (item_id, seq, quantity, value)
  SELECT a.item_id, a.layer_seq, sum(a.quantity), sum(a.value) FROM added a
  WHERE NOT EXISTS (SELECT 1 FROM cost_layer c WHERE c.item_id = a.item_id AND c.seq = a.layer_seq) GROUP BY 1, 2;
  -- Where each unit keeps its own cost, what lies at a site is worth that.
  PERFORM value_sites(ARRAY(SELECT DISTINCT a.item_id FROM added a JOIN item i ON i.id = a.item_id WHERE i.cost_method = 'specific'));
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER layer_line_keeps_layers AFTER INSERT ON layer_line REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_layers();
