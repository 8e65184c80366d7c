-- Seeing what things cost is a right of its own. Whoever writes prices has it; others are given it by whoever keeps the roles.
UPDATE role SET rights = array_append(rights, 'costs.see') WHERE NOT 'costs.see' = ANY(rights) AND rights && ARRAY['items.edit', 'inbound.order', 'books.bill', 'books.pay'];
