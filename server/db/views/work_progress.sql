-- What is in progress of each work order: what its components had cost and what was charged, less what its outputs are worth and what went to variance or to its rest.
CREATE VIEW work_progress AS
SELECT w.id AS work_order_id,
  coalesce((SELECT sum(c.used_value) FROM component_line c WHERE c.work_order_id = w.id), 0)
    + coalesce((SELECT sum(a.amount) FROM work_amount a WHERE a.work_order_id = w.id), 0)
    - coalesce((SELECT sum(p.made_value) FROM product_line p WHERE p.work_order_id = w.id), 0) AS value
FROM work_order w;
