-- What was received and billed on a line follows the cents that were settled when as many are billed as came.
CREATE OR REPLACE FUNCTION keep_settled() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE document_line d SET arrived_value = d.arrived_value + net.received, billed_value = d.billed_value + net.billed
  FROM (SELECT purchase_line_id AS id, sum(received) AS received, sum(billed) AS billed FROM added GROUP BY 1) net WHERE net.id = d.id;
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER line_settlement_kept AFTER INSERT ON line_settlement REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_settled();
