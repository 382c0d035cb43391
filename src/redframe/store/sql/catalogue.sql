-- name: held
-- Everything that guards and holds records, by kind and name; the queue's own tables and the list of migrations are theirs.
SELECT 'table ' || relname || CASE WHEN relrowsecurity THEN ' guarded' ELSE '' END FROM pg_class
WHERE relkind = 'r' AND relnamespace = 'public'::regnamespace AND relname NOT LIKE 'procrastinate%' AND relname NOT LIKE '%yoyo%'
AND relname <> 'demo_loaded'
UNION SELECT 'policy ' || tablename || ' ' || policyname FROM pg_policies WHERE schemaname = 'public'
UNION SELECT 'trigger ' || tgrelid::regclass || ' ' || tgname FROM pg_trigger t JOIN pg_class c ON c.oid = t.tgrelid
WHERE NOT tgisinternal AND tgenabled <> 'D' AND c.relnamespace = 'public'::regnamespace AND relname NOT LIKE 'procrastinate%'
UNION SELECT 'function ' || p.oid::regprocedure FROM pg_proc p WHERE pronamespace = 'public'::regnamespace
AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.objid = p.oid AND d.deptype = 'e') AND proname NOT LIKE 'procrastinate%'
UNION SELECT 'constraint ' || conrelid::regclass || ' ' || conname FROM pg_constraint c JOIN pg_class r ON r.oid = c.conrelid
WHERE r.relnamespace = 'public'::regnamespace AND relname NOT LIKE 'procrastinate%' AND relname NOT LIKE '%yoyo%' AND contype <> 'n'
UNION SELECT 'index ' || indexname FROM pg_indexes WHERE schemaname = 'public' AND tablename NOT LIKE 'procrastinate%'
AND tablename NOT LIKE '%yoyo%'
ORDER BY 1;
