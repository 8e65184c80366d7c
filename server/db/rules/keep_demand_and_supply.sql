-- What is on order and short, per item and site, follows the document lines: what they will bring to a site, and what they want of one and are not reserved.
CREATE OR REPLACE FUNCTION keep_demand_and_supply() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE items integer[]; sites integer[]; coming numeric[]; lacking numeric[]; none numeric[];
BEGIN
  IF TG_OP = 'INSERT' THEN
    SELECT array_agg(item_id), array_agg(site), array_agg(coming_), array_agg(lacking_) INTO items, sites, coming, lacking FROM (
      SELECT item_id, brings_to_id AS site, incoming AS coming_, 0 AS lacking_ FROM added WHERE incoming <> 0
      UNION ALL SELECT item_id, site_id, 0, short FROM added WHERE short <> 0) x;
  ELSIF TG_OP = 'DELETE' THEN
    SELECT array_agg(item_id), array_agg(site), array_agg(coming_), array_agg(lacking_) INTO items, sites, coming, lacking FROM (
      SELECT item_id, brings_to_id AS site, -incoming AS coming_, 0 AS lacking_ FROM removed WHERE incoming <> 0
      UNION ALL SELECT item_id, site_id, 0, -short FROM removed WHERE short <> 0) x;
  ELSE
    SELECT array_agg(item_id), array_agg(site), array_agg(coming_), array_agg(lacking_) INTO items, sites, coming, lacking FROM (
      SELECT item_id, site, sum(c) AS coming_, sum(l) AS lacking_ FROM (
        SELECT item_id, brings_to_id AS site, incoming AS c, 0 AS l FROM added WHERE incoming <> 0
        UNION ALL SELECT item_id, brings_to_id, -incoming, 0 FROM removed WHERE incoming <> 0
        UNION ALL SELECT item_id, site_id, 0, short FROM added WHERE short <> 0
        UNION ALL SELECT item_id, site_id, 0, -short FROM removed WHERE short <> 0) y
      GROUP BY 1, 2 HAVING sum(c) <> 0 OR sum(l) <> 0) x;
  END IF;
  IF items IS NULL THEN RETURN NULL; END IF;
  PERFORM add_to_figures(items, sites, none, coming, lacking);
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER document_line_keep_figures_insert AFTER INSERT ON document_line REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_demand_and_supply();
CREATE OR REPLACE TRIGGER document_line_keep_figures_update AFTER UPDATE ON document_line REFERENCING OLD TABLE AS removed NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_demand_and_supply();
CREATE OR REPLACE TRIGGER document_line_keep_figures_delete AFTER DELETE ON document_line REFERENCING OLD TABLE AS removed FOR EACH STATEMENT EXECUTE FUNCTION keep_demand_and_supply();
