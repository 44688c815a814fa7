-- Most transactions touch one application. A plan made for the very ids costs as much time as writing the entry, and is made anew each time;
-- one that is made once is as good for a few. The setting ends with the transaction, which ends with this.
CREATE OR REPLACE FUNCTION roster_follow() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE ids uuid[];
BEGIN
  WITH gone AS (DELETE FROM roster_touched WHERE transaction = pg_current_xact_id() RETURNING application_id) SELECT array_agg(application_id ORDER BY application_id) INTO ids FROM gone;
  IF cardinality(ids) <= 20 THEN PERFORM set_config('plan_cache_mode', 'force_generic_plan', true); END IF;
  IF ids IS NOT NULL THEN PERFORM roster_write(ids); END IF;
  RETURN NULL;
END $$;
