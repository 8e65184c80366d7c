-- No value of stock on any day without stock.
CREATE VIEW law_value_without_stock AS
SELECT 'item ' || item_id || ' is worth ' || value || ' on ' || day AS what FROM item_day WHERE quantity = 0 AND value <> 0;
