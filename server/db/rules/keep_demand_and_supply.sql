-- What is on order, to come from other sites, and short, per item and site, follows the document lines: what they will bring to a site, and what they want of one and are not reserved.
CREATE OR REPLACE FUNCTION keep_demand_and_supply() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE items integer[]; sites integer[]; ordered numeric[]; coming numeric[]; lacking numeric[]; none numeric[];
BEGIN
  IF TG_OP = 'INSERT' THEN
    SELECT array_agg(item_id), array_agg(site), array_agg(CASE WHEN kind <> 'transfer' THEN brings END), array_agg(CASE WHEN kind = 'transfer' THEN brings END), array_agg(lacks)
    INTO items, sites, ordered, coming, lacking FROM (
      SELECT item_id, brings_to_id AS site, kind, incoming AS brings, 0 AS lacks FROM added WHERE incoming <> 0
      UNION ALL SELECT item_id, site_id, kind, 0, short FROM added WHERE short <> 0) x;
  ELSIF TG_OP = 'DELETE' THEN
    SELECT array_agg(item_id), array_agg(site), array_agg(CASE WHEN kind <> 'transfer' THEN brings END), array_agg(CASE WHEN kind = 'transfer' THEN brings END), array_agg(lacks)
    INTO items, sites, ordered, coming, lacking FROM (
      SELECT item_id, brings_to_id AS site, kind, -incoming AS brings, 0 AS lacks FROM removed WHERE incoming <> 0
      UNION ALL SELECT item_id, site_id, kind, 0, -short FROM removed WHERE short <> 0) x;
  ELSE
    SELECT array_agg(item_id), array_agg(site), array_agg(o), array_agg(c), array_agg(l) INTO items, sites, ordered, coming, lacking FROM (
      SELECT item_id, site, sum(brings) FILTER (WHERE kind <> 'transfer') AS o, sum(brings) FILTER (WHERE kind = 'transfer') AS c, sum(lacks) AS l FROM (
        SELECT item_id, brings_to_id AS site, kind, incoming AS brings, 0 AS lacks FROM added WHERE incoming <> 0
        UNION ALL SELECT item_id, brings_to_id, kind, -incoming, 0 FROM removed WHERE incoming <> 0
        UNION ALL SELECT item_id, site_id, kind, 0, short FROM added WHERE short <> 0
        UNION ALL SELECT item_id, site_id, kind, 0, -short FROM removed WHERE short <> 0) y
      GROUP BY 1, 2 HAVING coalesce(sum(brings) FILTER (WHERE kind <> 'transfer'), 0) <> 0 OR coalesce(sum(brings) FILTER (WHERE kind = 'transfer'), 0) <> 0 OR sum(lacks) <> 0) x;
  END IF;
  IF items IS NULL THEN RETURN NULL; END IF;
  PERFORM add_to_figures(items, sites, none, ordered, coming, lacking);
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER document_line_keep_figures_insert AFTER INSERT ON document_line REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_demand_and_supply();
CREATE OR REPLACE TRIGGER document_line_keep_figures_update AFTER UPDATE ON document_line REFERENCING OLD TABLE AS removed NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_demand_and_supply();
CREATE OR REPLACE TRIGGER document_line_keep_figures_delete AFTER DELETE ON document_line REFERENCING OLD TABLE AS removed FOR EACH STATEMENT EXECUTE FUNCTION keep_demand_and_supply();
