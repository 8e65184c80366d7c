-- What a pool is worth follows the changes of cost.
CREATE OR REPLACE FUNCTION keep_pool_value() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE pool SET value = pool.value + net.amount, last_seq = greatest(pool.last_seq, net.last_seq)
  FROM (SELECT item_id, sum(amount) AS amount, max(seq) AS last_seq FROM added GROUP BY 1) net WHERE pool.item_id = net.item_id;
  PERFORM value_sites(ARRAY(SELECT DISTINCT item_id FROM added));
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER cost_change_keeps_value AFTER INSERT ON cost_change REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_pool_value();
