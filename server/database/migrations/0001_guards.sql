-- Rules that must hold whatever the code does.

-- A ledger transaction sums to zero; checked when the database transaction commits.
CREATE FUNCTION ledger_balanced() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF (SELECT coalesce(sum(amount), 0) <> 0 OR count(*) < 2 FROM ledger_line WHERE transaction_id = NEW.transaction_id) THEN
    RAISE EXCEPTION 'ledger transaction % does not balance', NEW.transaction_id;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER ledger_line_balanced AFTER INSERT ON ledger_line
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION ledger_balanced();
--> statement-breakpoint
-- Books and logs only grow.
CREATE FUNCTION append_only() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'rows of % are never changed or removed', TG_TABLE_NAME;
END $$;
--> statement-breakpoint
CREATE TRIGGER audit_event_append_only BEFORE UPDATE OR DELETE ON audit_event FOR EACH ROW EXECUTE FUNCTION append_only();
--> statement-breakpoint
CREATE TRIGGER ledger_line_append_only BEFORE UPDATE OR DELETE ON ledger_line FOR EACH ROW EXECUTE FUNCTION append_only();
--> statement-breakpoint
CREATE TRIGGER ledger_transaction_append_only BEFORE UPDATE OR DELETE ON ledger_transaction FOR EACH ROW EXECUTE FUNCTION append_only();
--> statement-breakpoint
CREATE TRIGGER notice_version_append_only BEFORE UPDATE OR DELETE ON notice_version FOR EACH ROW EXECUTE FUNCTION append_only();
