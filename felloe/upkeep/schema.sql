-- All migrations of 0422697499be00d7623e6a53b4f86b5d14eaffde6d0de65946a0a7a7cc76e3c6
CREATE EXTENSION IF NOT EXISTS btree_gin WITH SCHEMA public;
CREATE EXTENSION IF NOT EXISTS pg_trgm WITH SCHEMA public;
CREATE EXTENSION IF NOT EXISTS unaccent WITH SCHEMA public;
CREATE TYPE public.procrastinate_job_event_type AS ENUM (
    'deferred',
    'started',
    'deferred_for_retry',
    'failed',
    'succeeded',
    'cancelled',
    'abort_requested',
    'aborted',
    'scheduled',
    'retried'
);
CREATE TYPE public.procrastinate_job_status AS ENUM (
    'todo',
    'doing',
    'succeeded',
    'failed',
    'cancelled',
    'aborting',
    'aborted'
);
CREATE TYPE public.procrastinate_job_to_defer_v1 AS (
	queue_name character varying,
	task_name character varying,
	priority integer,
	lock text,
	queueing_lock text,
	args jsonb,
	scheduled_at timestamp with time zone
);
CREATE FUNCTION public.felloe_live() RETURNS trigger
    LANGUAGE plpgsql
    AS $_$
DECLARE
    subject uuid;
    its_shop uuid;
    its_job uuid;
    its_set uuid;
BEGIN
    EXECUTE format('SELECT ($1).%I, ($1).shop_id', TG_ARGV[1]) USING coalesce(NEW, OLD) INTO subject, its_shop;
    CASE TG_ARGV[2]
        WHEN 'job' THEN its_job := subject;
        WHEN 'set' THEN
            its_set := subject;
            SELECT s.job_id INTO its_job FROM bench_readingset s WHERE s.id = subject;
        WHEN 'pass' THEN
            SELECT s.id, s.job_id INTO its_set, its_job
            FROM bench_livepass p JOIN bench_readingset s ON s.id = p.reading_set_id WHERE p.id = subject;
        ELSE NULL;
    END CASE;
    PERFORM felloe_tell(its_shop, TG_ARGV[0], subject::text, its_job, its_set, NULL, '');
    RETURN NULL;
END $_$;
CREATE FUNCTION public.felloe_live_move() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
DECLARE
    its_job uuid;
    its_set uuid;
    nipple text := NEW.spoke || CASE WHEN NEW.visit = 1 THEN '' ELSE '.' || NEW.visit END;
BEGIN
    SELECT s.id, s.job_id INTO its_set, its_job
    FROM bench_plan p JOIN bench_readingset s ON s.id = p.reading_set_id WHERE p.id = NEW.plan_id;
    PERFORM felloe_tell(NEW.shop_id, 'move', NEW.plan_id || ' ' || nipple, its_job, its_set, NEW.plan_id, nipple);
    RETURN NULL;
END $$;
CREATE FUNCTION public.felloe_live_shop() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    PERFORM felloe_tell(NEW.id, 'shop', NEW.id::text, NULL, NULL, NULL, '');
    RETURN NULL;
END $$;
CREATE FUNCTION public.felloe_live_staff() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    PERFORM felloe_tell(NEW.shop_id, 'shop', NEW.id::text, NULL, NULL, NULL, '');
    RETURN NULL;
END $$;
CREATE FUNCTION public.felloe_only_the_ledger() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    -- 1 is this trigger itself: nothing else stands between it and whoever wrote.
    IF pg_trigger_depth() = 1 THEN
        RAISE EXCEPTION '%: what the ledger leaves is written by the ledger', TG_TABLE_NAME;
    END IF;
    RETURN CASE TG_OP WHEN 'DELETE' THEN OLD ELSE NEW END;
END $$;
CREATE FUNCTION public.felloe_refuse_change() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF current_setting('felloe.erasing', true) = 'on' THEN
        IF TG_OP = 'DELETE' THEN RETURN OLD; END IF;
        RETURN NEW;
    END IF;
    RAISE EXCEPTION 'rows of % are append-only', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
END $$;
CREATE FUNCTION public.felloe_stock_balance() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    UPDATE stock_balance b SET on_hand = b.on_hand + a.delta
    FROM (SELECT part_id, sum(delta) AS delta FROM added GROUP BY part_id) a WHERE b.part_id = a.part_id AND a.delta <> 0;
    INSERT INTO stock_balance (part_id, shop_id, on_hand)
    SELECT a.part_id, a.shop_id, sum(a.delta) FROM added a
    WHERE NOT EXISTS (SELECT 1 FROM stock_balance b WHERE b.part_id = a.part_id) GROUP BY a.part_id, a.shop_id;

    IF EXISTS (SELECT 1 FROM added WHERE claim_delta <> 0) THEN
        UPDATE stock_claimed c SET count = c.count + a.delta
        FROM (SELECT part_id, job_id, sum(claim_delta) AS delta FROM added WHERE claim_delta <> 0 GROUP BY part_id, job_id) a
        WHERE c.part_id = a.part_id AND c.job_id = a.job_id;
        INSERT INTO stock_claimed (part_id, job_id, shop_id, count, since)
        SELECT a.part_id, a.job_id, a.shop_id, sum(a.claim_delta), min(a.created_at) FROM added a
        WHERE a.claim_delta <> 0
            AND NOT EXISTS (SELECT 1 FROM stock_claimed c WHERE c.part_id = a.part_id AND c.job_id = a.job_id)
        GROUP BY a.part_id, a.job_id, a.shop_id;
        DELETE FROM stock_claimed c USING added a WHERE c.part_id = a.part_id AND c.job_id = a.job_id AND c.count = 0;
    END IF;
    RETURN NULL;
END $$;
CREATE FUNCTION public.felloe_tell(its_shop uuid, topic text, subject text, job uuid, reading_set uuid, plan uuid, spoke text) RETURNS void
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF EXISTS (
        SELECT 1 FROM live_liveevent e
        WHERE e.xid = pg_current_xact_id()::text::bigint AND e.topic = felloe_tell.topic AND e.subject = felloe_tell.subject
    ) THEN
        RETURN;
    END IF;
    INSERT INTO live_liveevent (shop_id, xid, topic, subject, job, reading_set, plan, spoke, by, tab, at)
    VALUES (its_shop, pg_current_xact_id()::text::bigint, topic, subject, job, reading_set, plan, spoke,
            coalesce(current_setting('felloe.by', true), ''), coalesce(current_setting('felloe.tab', true), ''),
            clock_timestamp())
    ON CONFLICT ON CONSTRAINT told_once_a_transaction DO NOTHING;
    PERFORM pg_notify('felloe_live', '');
END $$;
CREATE FUNCTION public.felloe_trail() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
DECLARE
    -- What changes with every save and says nothing, and what nobody may read.
    quiet CONSTANT text[] := ARRAY['id', 'shop_id', 'version', 'prices_version', 'changed_at', 'changed_by_id', 'created_at',
        'created_by_id', 'last_login', 'date_joined', 'is_staff', 'is_superuser'];
    hidden CONSTANT text[] := ARRAY['password', 'pin', 'one_person'];
    was jsonb := CASE WHEN TG_OP = 'INSERT' THEN '{}' ELSE to_jsonb(OLD) END;
    now_is jsonb := CASE WHEN TG_OP = 'DELETE' THEN '{}' ELSE to_jsonb(NEW) END;
    whole jsonb := CASE WHEN TG_OP = 'DELETE' THEN was ELSE now_is END;
    found jsonb;
    signed text := nullif(current_setting('felloe.by', true), '');
BEGIN
    SELECT jsonb_object_agg(
        n.name,
        CASE WHEN n.name = ANY (hidden) THEN '["•", "•"]' ELSE jsonb_build_array(was -> n.name, now_is -> n.name) END
    ) INTO found
    FROM jsonb_object_keys(whole) n (name)
    WHERE n.name <> ALL (quiet) AND was -> n.name IS DISTINCT FROM now_is -> n.name;
    IF found IS NOT NULL THEN
        INSERT INTO trail_change (shop_id, topic, "row", deed, fields, at, by_id)
        VALUES (
            (CASE WHEN TG_TABLE_NAME = 'accounts_shop' THEN whole ->> 'id' ELSE whole ->> 'shop_id' END)::uuid,
            TG_ARGV[0], (whole ->> 'id')::uuid,
            CASE TG_OP WHEN 'INSERT' THEN 'made' WHEN 'UPDATE' THEN 'changed' ELSE 'gone' END,
            found, now(),
            coalesce(signed, whole ->> 'changed_by_id', whole ->> 'created_by_id')::uuid
        );
    END IF;
    RETURN NULL;
END $$;
CREATE FUNCTION public.procrastinate_cancel_job_v1(job_id bigint, abort boolean, delete_job boolean) RETURNS bigint
    LANGUAGE plpgsql
    AS $$
DECLARE
    _job_id bigint;
BEGIN
    IF delete_job THEN
        DELETE FROM procrastinate_jobs
        WHERE id = job_id AND status = 'todo'
        RETURNING id INTO _job_id;
    END IF;
    IF _job_id IS NULL THEN
        IF abort THEN
            UPDATE procrastinate_jobs
            SET abort_requested = true,
                status = CASE status
                    WHEN 'todo' THEN 'cancelled'::procrastinate_job_status ELSE status
                END
            WHERE id = job_id AND status IN ('todo', 'doing')
            RETURNING id INTO _job_id;
        ELSE
            UPDATE procrastinate_jobs
            SET status = 'cancelled'::procrastinate_job_status
            WHERE id = job_id AND status = 'todo'
            RETURNING id INTO _job_id;
        END IF;
    END IF;
    RETURN _job_id;
END;
$$;
CREATE FUNCTION public.procrastinate_defer_jobs_v1(jobs public.procrastinate_job_to_defer_v1[]) RETURNS bigint[]
    LANGUAGE plpgsql
    AS $$
DECLARE
    job_ids bigint[];
BEGIN
    WITH inserted_jobs AS (
        INSERT INTO procrastinate_jobs (queue_name, task_name, priority, lock, queueing_lock, args, scheduled_at)
        SELECT (job).queue_name,
               (job).task_name,
               (job).priority,
               (job).lock,
               (job).queueing_lock,
               (job).args,
               (job).scheduled_at
        FROM unnest(jobs) AS job
        RETURNING id
    )
    SELECT array_agg(id) FROM inserted_jobs INTO job_ids;

    RETURN job_ids;
END;
$$;
CREATE FUNCTION public.procrastinate_defer_periodic_job_v2(_queue_name character varying, _lock character varying, _queueing_lock character varying, _task_name character varying, _priority integer, _periodic_id character varying, _defer_timestamp bigint, _args jsonb) RETURNS bigint
    LANGUAGE plpgsql
    AS $$
DECLARE
	_job_id bigint;
	_defer_id bigint;
BEGIN
    INSERT
        INTO procrastinate_periodic_defers (task_name, periodic_id, defer_timestamp)
        VALUES (_task_name, _periodic_id, _defer_timestamp)
        ON CONFLICT DO NOTHING
        RETURNING id into _defer_id;

    IF _defer_id IS NULL THEN
        RETURN NULL;
    END IF;

    UPDATE procrastinate_periodic_defers
        SET job_id = (
            SELECT COALESCE((
                SELECT unnest(procrastinate_defer_jobs_v1(
                    ARRAY[
                        ROW(
                            _queue_name,
                            _task_name,
                            _priority,
                            _lock,
                            _queueing_lock,
                            _args,
                            NULL::timestamptz
                        )
                    ]::procrastinate_job_to_defer_v1[]
                ))
            ), NULL)
        )
        WHERE id = _defer_id
        RETURNING job_id INTO _job_id;

    DELETE
        FROM procrastinate_periodic_defers
        USING (
            SELECT id
            FROM procrastinate_periodic_defers
            WHERE procrastinate_periodic_defers.task_name = _task_name
            AND procrastinate_periodic_defers.periodic_id = _periodic_id
            AND procrastinate_periodic_defers.defer_timestamp < _defer_timestamp
            ORDER BY id
            FOR UPDATE
        ) to_delete
        WHERE procrastinate_periodic_defers.id = to_delete.id;

    RETURN _job_id;
END;
$$;
CREATE TABLE public.procrastinate_jobs (
    id bigint NOT NULL,
    queue_name character varying(128) NOT NULL,
    task_name character varying(128) NOT NULL,
    lock text,
    args jsonb DEFAULT '{}'::jsonb NOT NULL,
    status public.procrastinate_job_status DEFAULT 'todo'::public.procrastinate_job_status NOT NULL,
    scheduled_at timestamp with time zone,
    attempts integer DEFAULT 0 NOT NULL,
    queueing_lock text,
    priority integer DEFAULT 0 NOT NULL,
    abort_requested boolean DEFAULT false NOT NULL,
    worker_id bigint,
    CONSTRAINT check_not_todo_abort_requested CHECK ((NOT ((status = 'todo'::public.procrastinate_job_status) AND (abort_requested = true))))
);
CREATE FUNCTION public.procrastinate_fetch_job_v2(target_queue_names character varying[], p_worker_id bigint) RETURNS public.procrastinate_jobs
    LANGUAGE plpgsql
    AS $$
DECLARE
	found_jobs procrastinate_jobs;
BEGIN
    WITH candidate AS (
        SELECT jobs.*
            FROM procrastinate_jobs AS jobs
            WHERE
                -- reject the job if its lock has earlier or higher priority jobs
                NOT EXISTS (
                    SELECT 1
                        FROM procrastinate_jobs AS other_jobs
                        WHERE
                            jobs.lock IS NOT NULL
                            AND other_jobs.lock = jobs.lock
                            AND (
                                -- job with same lock is already running
                                other_jobs.status = 'doing'
                                OR
                                -- job with same lock is waiting and has higher priority (or same priority but was queued first)
                                (
                                    other_jobs.status = 'todo'
                                    AND (
                                        other_jobs.priority > jobs.priority
                                        OR (
                                        other_jobs.priority = jobs.priority
                                        AND other_jobs.id < jobs.id
                                        )
                                    )
                                )
                            )
                )
                AND jobs.status = 'todo'
                AND (target_queue_names IS NULL OR jobs.queue_name = ANY( target_queue_names ))
                AND (jobs.scheduled_at IS NULL OR jobs.scheduled_at <= now())
            ORDER BY jobs.priority DESC, jobs.id ASC LIMIT 1
            FOR UPDATE OF jobs SKIP LOCKED
    )
    UPDATE procrastinate_jobs
        SET status = 'doing', worker_id = p_worker_id
        FROM candidate
        WHERE procrastinate_jobs.id = candidate.id
        RETURNING procrastinate_jobs.* INTO found_jobs;

 RETURN found_jobs;
END;
$$;
CREATE FUNCTION public.procrastinate_finish_job_v1(job_id bigint, end_status public.procrastinate_job_status, delete_job boolean) RETURNS void
    LANGUAGE plpgsql
    AS $$
DECLARE
    _job_id bigint;
BEGIN
    IF end_status NOT IN ('succeeded', 'failed', 'aborted') THEN
        RAISE 'End status should be either "succeeded", "failed" or "aborted" (job id: %)', job_id;
    END IF;
    IF delete_job THEN
        DELETE FROM procrastinate_jobs
        WHERE id = job_id AND status IN ('todo', 'doing')
        RETURNING id INTO _job_id;
    ELSE
        UPDATE procrastinate_jobs
        SET status = end_status,
            abort_requested = false,
            attempts = CASE status
                WHEN 'doing' THEN attempts + 1 ELSE attempts
            END
        WHERE id = job_id AND status IN ('todo', 'doing')
        RETURNING id INTO _job_id;
    END IF;
    IF _job_id IS NULL THEN
        RAISE 'Job was not found or not in "doing" or "todo" status (job id: %)', job_id;
    END IF;
END;
$$;
CREATE FUNCTION public.procrastinate_notify_queue_abort_job_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
DECLARE
    payload TEXT;
BEGIN
    SELECT json_build_object('type', 'abort_job_requested', 'job_id', NEW.id)::text INTO payload;
	PERFORM pg_notify('procrastinate_queue_v1#' || NEW.queue_name, payload);
	PERFORM pg_notify('procrastinate_any_queue_v1', payload);
	RETURN NEW;
END;
$$;
CREATE FUNCTION public.procrastinate_notify_queue_job_inserted_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
DECLARE
    payload TEXT;
BEGIN
    SELECT json_build_object('type', 'job_inserted', 'job_id', NEW.id)::text INTO payload;
	PERFORM pg_notify('procrastinate_queue_v1#' || NEW.queue_name, payload);
	PERFORM pg_notify('procrastinate_any_queue_v1', payload);
	RETURN NEW;
END;
$$;
CREATE FUNCTION public.procrastinate_prune_stalled_workers_v1(seconds_since_heartbeat double precision) RETURNS TABLE(worker_id bigint)
    LANGUAGE plpgsql
    AS $$
BEGIN
    RETURN QUERY
    DELETE FROM procrastinate_workers
    WHERE last_heartbeat < NOW() - (seconds_since_heartbeat || 'SECOND')::INTERVAL
    RETURNING procrastinate_workers.id;
END;
$$;
CREATE FUNCTION public.procrastinate_register_worker_v1() RETURNS TABLE(worker_id bigint)
    LANGUAGE plpgsql
    AS $$
BEGIN
    RETURN QUERY
    INSERT INTO procrastinate_workers DEFAULT VALUES
    RETURNING procrastinate_workers.id;
END;
$$;
CREATE FUNCTION public.procrastinate_retry_job_v1(job_id bigint, retry_at timestamp with time zone, new_priority integer, new_queue_name character varying, new_lock character varying) RETURNS void
    LANGUAGE plpgsql
    AS $$
DECLARE
    _job_id bigint;
    _abort_requested boolean;
BEGIN
    SELECT abort_requested FROM procrastinate_jobs
    WHERE id = job_id AND status = 'doing'
    FOR UPDATE
    INTO _abort_requested;
    IF _abort_requested THEN
        UPDATE procrastinate_jobs
        SET status = 'failed'::procrastinate_job_status
        WHERE id = job_id AND status = 'doing'
        RETURNING id INTO _job_id;
    ELSE
        UPDATE procrastinate_jobs
        SET status = 'todo'::procrastinate_job_status,
            attempts = attempts + 1,
            scheduled_at = retry_at,
            priority = COALESCE(new_priority, priority),
            queue_name = COALESCE(new_queue_name, queue_name),
            lock = COALESCE(new_lock, lock)
        WHERE id = job_id AND status = 'doing'
        RETURNING id INTO _job_id;
    END IF;

    IF _job_id IS NULL THEN
        RAISE 'Job was not found or not in "doing" status (job id: %)', job_id;
    END IF;
END;
$$;
CREATE FUNCTION public.procrastinate_retry_job_v2(job_id bigint, retry_at timestamp with time zone, new_priority integer, new_queue_name character varying, new_lock character varying) RETURNS void
    LANGUAGE plpgsql
    AS $$
DECLARE
    _job_id bigint;
    _abort_requested boolean;
    _current_status procrastinate_job_status;
BEGIN
    SELECT status, abort_requested FROM procrastinate_jobs
    WHERE id = job_id AND status IN ('doing', 'failed')
    FOR UPDATE
    INTO _current_status, _abort_requested;
    IF _current_status = 'doing' AND _abort_requested THEN
        UPDATE procrastinate_jobs
        SET status = 'failed'::procrastinate_job_status
        WHERE id = job_id AND status = 'doing'
        RETURNING id INTO _job_id;
    ELSE
        UPDATE procrastinate_jobs
        SET status = 'todo'::procrastinate_job_status,
            attempts = attempts + 1,
            scheduled_at = retry_at,
            priority = COALESCE(new_priority, priority),
            queue_name = COALESCE(new_queue_name, queue_name),
            lock = COALESCE(new_lock, lock)
        WHERE id = job_id AND status IN ('doing', 'failed')
        RETURNING id INTO _job_id;
    END IF;

    IF _job_id IS NULL THEN
        RAISE 'Job was not found or has an invalid status to retry (job id: %)', job_id;
    END IF;

END;
$$;
CREATE FUNCTION public.procrastinate_trigger_abort_requested_events_procedure_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO procrastinate_events(job_id, type)
        VALUES (NEW.id, 'abort_requested'::procrastinate_job_event_type);
    RETURN NEW;
END;
$$;
CREATE FUNCTION public.procrastinate_trigger_function_scheduled_events_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO procrastinate_events(job_id, type, at)
        VALUES (NEW.id, 'scheduled'::procrastinate_job_event_type, NEW.scheduled_at);

	RETURN NEW;
END;
$$;
CREATE FUNCTION public.procrastinate_trigger_function_status_events_insert_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO procrastinate_events(job_id, type)
        VALUES (NEW.id, 'deferred'::procrastinate_job_event_type);
	RETURN NEW;
END;
$$;
CREATE FUNCTION public.procrastinate_trigger_function_status_events_update_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    WITH t AS (
        SELECT CASE
            WHEN OLD.status = 'todo'::procrastinate_job_status
                AND NEW.status = 'doing'::procrastinate_job_status
                THEN 'started'::procrastinate_job_event_type
            WHEN OLD.status = 'doing'::procrastinate_job_status
                AND NEW.status = 'todo'::procrastinate_job_status
                THEN 'deferred_for_retry'::procrastinate_job_event_type
            WHEN OLD.status = 'doing'::procrastinate_job_status
                AND NEW.status = 'failed'::procrastinate_job_status
                THEN 'failed'::procrastinate_job_event_type
            WHEN OLD.status = 'doing'::procrastinate_job_status
                AND NEW.status = 'succeeded'::procrastinate_job_status
                THEN 'succeeded'::procrastinate_job_event_type
            WHEN OLD.status = 'todo'::procrastinate_job_status
                AND (
                    NEW.status = 'cancelled'::procrastinate_job_status
                    OR NEW.status = 'failed'::procrastinate_job_status
                    OR NEW.status = 'succeeded'::procrastinate_job_status
                )
                THEN 'cancelled'::procrastinate_job_event_type
            WHEN OLD.status = 'doing'::procrastinate_job_status
                AND NEW.status = 'aborted'::procrastinate_job_status
                THEN 'aborted'::procrastinate_job_event_type
            WHEN OLD.status = 'failed'::procrastinate_job_status
                AND NEW.status = 'todo'::procrastinate_job_status
                THEN 'retried'::procrastinate_job_event_type
            ELSE NULL
        END as event_type
    )
    INSERT INTO procrastinate_events(job_id, type)
        SELECT NEW.id, t.event_type
        FROM t
        WHERE t.event_type IS NOT NULL;
	RETURN NEW;
END;
$$;
CREATE FUNCTION public.procrastinate_unlink_periodic_defers_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    UPDATE procrastinate_periodic_defers
    SET job_id = NULL
    WHERE job_id = OLD.id;
    RETURN OLD;
END;
$$;
CREATE FUNCTION public.procrastinate_unregister_worker_v1(worker_id bigint) RETURNS void
    LANGUAGE plpgsql
    AS $$
BEGIN
    DELETE FROM procrastinate_workers
    WHERE id = worker_id;
END;
$$;
CREATE FUNCTION public.procrastinate_update_heartbeat_v1(worker_id bigint) RETURNS void
    LANGUAGE plpgsql
    AS $$
BEGIN
    UPDATE procrastinate_workers
    SET last_heartbeat = NOW()
    WHERE id = worker_id;
END;
$$;
CREATE FUNCTION public.queue_jobfind_of_bike() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN PERFORM queue_write_jobfind(j.id) FROM queue_job j JOIN wheels_wheel w ON w.id = j.wheel_id
    WHERE w.bike_id = NEW.id; RETURN NULL; END $$;
CREATE FUNCTION public.queue_jobfind_of_customer() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN PERFORM queue_write_jobfind(j.id) FROM queue_job j JOIN wheels_wheel w ON w.id = j.wheel_id
    JOIN customers_bike b ON b.id = w.bike_id WHERE b.customer_id = NEW.id; RETURN NULL; END $$;
CREATE FUNCTION public.queue_jobfind_of_job() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN PERFORM queue_write_jobfind(NEW.id); RETURN NULL; END $$;
CREATE FUNCTION public.queue_jobfind_of_wheel() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN PERFORM queue_write_jobfind(j.id) FROM queue_job j WHERE j.wheel_id = NEW.id; RETURN NULL; END $$;
CREATE FUNCTION public.queue_write_jobfind(which uuid) RETURNS void
    LANGUAGE sql
    AS $$
    INSERT INTO queue_jobfind (job_id, shop_id, words, digits, vector)
    SELECT job_id, shop_id, words, digits, to_tsvector('simple', words) FROM (
        SELECT j.id AS job_id, j.shop_id,
            lower(unaccent(concat_ws(' ', j.number, c.name, b.label, b.asset_number, w.asset_number, w.position, c.email,
                j.complaint))) AS words,
            left(regexp_replace(c.phone, '[^0-9]', '', 'g'), 40) AS digits
        FROM queue_job j JOIN wheels_wheel w ON w.id = j.wheel_id
            JOIN customers_bike b ON b.id = w.bike_id JOIN customers_customer c ON c.id = b.customer_id
        WHERE j.id = which) AS found
    ON CONFLICT (job_id) DO UPDATE
        SET words = EXCLUDED.words, digits = EXCLUDED.digits, vector = EXCLUDED.vector;
$$;
CREATE FUNCTION public.signing_key_kept() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF TG_OP = 'DELETE' THEN
        RAISE EXCEPTION 'signing keys are kept' USING ERRCODE = 'integrity_constraint_violation';
    END IF;
    IF OLD.ended_at IS NOT NULL OR NEW.public <> OLD.public OR NEW.shop_id <> OLD.shop_id
        OR NEW.created_at <> OLD.created_at OR NEW.vouched_by_id IS DISTINCT FROM OLD.vouched_by_id
        OR NEW.vouched_signature IS DISTINCT FROM OLD.vouched_signature THEN
        RAISE EXCEPTION 'of a signing key only its end is written, once' USING ERRCODE = 'integrity_constraint_violation';
    END IF;
    RETURN NEW;
END $$;
CREATE TABLE public.accounts_passwordletter (
    person_id uuid NOT NULL,
    at timestamp with time zone NOT NULL
);
CREATE TABLE public.accounts_pintry (
    id bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    person_id uuid NOT NULL
);
ALTER TABLE public.accounts_pintry ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.accounts_pintry_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.accounts_secondfactor (
    person_id uuid NOT NULL,
    sealed_secret bytea NOT NULL,
    confirmed_at timestamp with time zone,
    last_step bigint NOT NULL,
    spare_codes jsonb NOT NULL
);
CREATE TABLE public.accounts_shop (
    id uuid NOT NULL,
    name character varying(120) NOT NULL,
    currency character varying(3) NOT NULL,
    prices_minor jsonb NOT NULL,
    prices_version integer NOT NULL,
    cuts_spokes boolean NOT NULL,
    reopen_days smallint NOT NULL,
    unfetched_days smallint NOT NULL,
    address character varying(200) NOT NULL,
    email character varying(254) NOT NULL,
    interrupted_percent smallint NOT NULL,
    phone character varying(40) NOT NULL,
    promise_line_percent smallint NOT NULL,
    time_zone character varying(40) NOT NULL,
    version integer NOT NULL,
    tax_basis_points smallint NOT NULL,
    tax_included boolean NOT NULL,
    letter_texts jsonb NOT NULL,
    tag_text character varying(200) NOT NULL,
    keep_customers_months smallint NOT NULL,
    keep_letters_months smallint NOT NULL,
    keep_photos_months smallint NOT NULL,
    code character varying(40) NOT NULL,
    most_open_jobs integer NOT NULL,
    most_photo_mb integer NOT NULL,
    most_staff integer NOT NULL,
    suspended_at timestamp with time zone,
    language character varying(10) NOT NULL,
    CONSTRAINT accounts_shop_interrupted_percent_check CHECK ((interrupted_percent >= 0)),
    CONSTRAINT accounts_shop_keep_customers_months_check CHECK ((keep_customers_months >= 0)),
    CONSTRAINT accounts_shop_keep_letters_months_check CHECK ((keep_letters_months >= 0)),
    CONSTRAINT accounts_shop_keep_photos_months_check CHECK ((keep_photos_months >= 0)),
    CONSTRAINT accounts_shop_most_open_jobs_check CHECK ((most_open_jobs >= 0)),
    CONSTRAINT accounts_shop_most_photo_mb_check CHECK ((most_photo_mb >= 0)),
    CONSTRAINT accounts_shop_most_staff_check CHECK ((most_staff >= 0)),
    CONSTRAINT accounts_shop_prices_version_check CHECK ((prices_version >= 0)),
    CONSTRAINT accounts_shop_promise_line_percent_check CHECK ((promise_line_percent >= 0)),
    CONSTRAINT accounts_shop_reopen_days_check CHECK ((reopen_days >= 0)),
    CONSTRAINT accounts_shop_tax_basis_points_check CHECK ((tax_basis_points >= 0)),
    CONSTRAINT accounts_shop_unfetched_days_check CHECK ((unfetched_days >= 0)),
    CONSTRAINT accounts_shop_version_check CHECK ((version >= 0)),
    CONSTRAINT shop_has_time_zone CHECK ((NOT ((time_zone)::text = ''::text))),
    CONSTRAINT shop_keeps_in_range CHECK (((keep_customers_months <= 240) AND (keep_letters_months <= 240) AND (keep_photos_months <= 240))),
    CONSTRAINT shop_promises_in_range CHECK (((interrupted_percent <= 70) AND (promise_line_percent >= 50) AND (promise_line_percent <= 99))),
    CONSTRAINT shop_rules_in_range CHECK (((reopen_days <= 365) AND (unfetched_days >= 14) AND (unfetched_days <= 1000))),
    CONSTRAINT shop_tax_in_range CHECK ((tax_basis_points <= 5000))
);
CREATE TABLE public.accounts_signedin (
    id uuid NOT NULL,
    session_key character varying(40) NOT NULL,
    device character varying(200) NOT NULL,
    address character varying(45) NOT NULL,
    by_digits boolean NOT NULL,
    began_at timestamp with time zone NOT NULL,
    seen_at timestamp with time zone NOT NULL,
    person_id uuid NOT NULL
);
CREATE TABLE public.accounts_user (
    password character varying(128) NOT NULL,
    last_login timestamp with time zone,
    is_superuser boolean NOT NULL,
    username character varying(150) NOT NULL,
    first_name character varying(150) NOT NULL,
    last_name character varying(150) NOT NULL,
    email character varying(254) NOT NULL,
    is_staff boolean NOT NULL,
    is_active boolean NOT NULL,
    date_joined timestamp with time zone NOT NULL,
    id uuid NOT NULL,
    role character varying(10) NOT NULL,
    force_unit character varying(3) NOT NULL,
    shop_id uuid NOT NULL,
    pin character varying(128) NOT NULL,
    skills jsonb NOT NULL,
    version integer NOT NULL,
    one_person uuid,
    CONSTRAINT accounts_user_version_check CHECK ((version >= 0)),
    CONSTRAINT user_force_unit_known CHECK (((force_unit)::text = ANY ((ARRAY['N'::character varying, 'kgf'::character varying])::text[]))),
    CONSTRAINT user_role_known CHECK (((role)::text = ANY ((ARRAY['owner'::character varying, 'mechanic'::character varying, 'desk'::character varying, 'apprentice'::character varying])::text[])))
);
CREATE TABLE public.accounts_user_groups (
    id integer NOT NULL,
    user_id uuid NOT NULL,
    group_id integer NOT NULL
);
ALTER TABLE public.accounts_user_groups ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.accounts_user_groups_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.accounts_user_user_permissions (
    id integer NOT NULL,
    user_id uuid NOT NULL,
    permission_id integer NOT NULL
);
ALTER TABLE public.accounts_user_user_permissions ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.accounts_user_user_permissions_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.api_writekey (
    id bigint NOT NULL,
    key character varying(80) NOT NULL,
    fingerprint character varying(64) NOT NULL,
    status smallint,
    body jsonb,
    created_at timestamp with time zone NOT NULL,
    user_id uuid NOT NULL,
    CONSTRAINT api_writekey_status_check CHECK ((status >= 0))
);
ALTER TABLE public.api_writekey ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.api_writekey_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.auth_group (
    id integer NOT NULL,
    name character varying(150) NOT NULL
);
ALTER TABLE public.auth_group ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.auth_group_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.auth_group_permissions (
    id integer NOT NULL,
    group_id integer NOT NULL,
    permission_id integer NOT NULL
);
ALTER TABLE public.auth_group_permissions ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.auth_group_permissions_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.auth_permission (
    id integer NOT NULL,
    name character varying(255) NOT NULL,
    content_type_id integer NOT NULL,
    codename character varying(100) NOT NULL
);
ALTER TABLE public.auth_permission ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.auth_permission_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.axes_accessattempt (
    id integer NOT NULL,
    user_agent character varying(255) NOT NULL,
    ip_address inet,
    username character varying(255),
    http_accept character varying(1025) NOT NULL,
    path_info character varying(255) NOT NULL,
    attempt_time timestamp with time zone NOT NULL,
    get_data text NOT NULL,
    post_data text NOT NULL,
    failures_since_start integer NOT NULL,
    CONSTRAINT axes_accessattempt_failures_since_start_check CHECK ((failures_since_start >= 0))
);
ALTER TABLE public.axes_accessattempt ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.axes_accessattempt_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.axes_accessattemptexpiration (
    access_attempt_id integer NOT NULL,
    expires_at timestamp with time zone NOT NULL
);
CREATE TABLE public.axes_accessfailurelog (
    id integer NOT NULL,
    user_agent character varying(255) NOT NULL,
    ip_address inet,
    username character varying(255),
    http_accept character varying(1025) NOT NULL,
    path_info character varying(255) NOT NULL,
    attempt_time timestamp with time zone NOT NULL,
    locked_out boolean NOT NULL
);
ALTER TABLE public.axes_accessfailurelog ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.axes_accessfailurelog_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.axes_accesslog (
    id integer NOT NULL,
    user_agent character varying(255) NOT NULL,
    ip_address inet,
    username character varying(255),
    http_accept character varying(1025) NOT NULL,
    path_info character varying(255) NOT NULL,
    attempt_time timestamp with time zone NOT NULL,
    logout_time timestamp with time zone,
    session_hash character varying(64) NOT NULL
);
ALTER TABLE public.axes_accesslog ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.axes_accesslog_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.bench_dialtrace (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    kind character varying(8) NOT NULL,
    source character varying(6) NOT NULL,
    points jsonb NOT NULL,
    said jsonb NOT NULL,
    created_by_id uuid,
    instrument_id uuid,
    reading_set_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT trace_kind_known CHECK (((kind)::text = ANY ((ARRAY['lateral'::character varying, 'radial'::character varying])::text[]))),
    CONSTRAINT trace_source_known CHECK (((source)::text = ANY ((ARRAY['stream'::character varying, 'file'::character varying, 'lump'::character varying])::text[])))
);
CREATE TABLE public.bench_learntrim (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    wheel_version integer NOT NULL,
    ei_lat double precision NOT NULL,
    ei_rad double precision NOT NULL,
    gj double precision NOT NULL,
    log_sd jsonb NOT NULL,
    changes integer NOT NULL,
    misfit_before double precision NOT NULL,
    misfit_after double precision NOT NULL,
    shirkers jsonb NOT NULL,
    created_by_id uuid,
    reading_set_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    wheel_id uuid NOT NULL,
    CONSTRAINT bench_learntrim_changes_check CHECK ((changes >= 0)),
    CONSTRAINT bench_learntrim_wheel_version_check CHECK ((wheel_version >= 0)),
    CONSTRAINT learnt_factors_positive CHECK (((ei_lat > (0.0)::double precision) AND (ei_rad > (0.0)::double precision) AND (gj > (0.0)::double precision)))
);
CREATE TABLE public.bench_livelook (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    number smallint NOT NULL,
    after_moves smallint NOT NULL,
    kind character varying(8) NOT NULL,
    source character varying(6) NOT NULL,
    spoke character varying(4) NOT NULL,
    entered jsonb NOT NULL,
    points jsonb NOT NULL,
    said jsonb NOT NULL,
    created_by_id uuid,
    instrument_id uuid,
    meter_table_id uuid,
    shop_id uuid NOT NULL,
    live_pass_id uuid NOT NULL,
    CONSTRAINT bench_livelook_after_moves_check CHECK ((after_moves >= 0)),
    CONSTRAINT bench_livelook_number_check CHECK ((number >= 0)),
    CONSTRAINT live_look_kind_known CHECK (((kind)::text = ANY ((ARRAY['tension'::character varying, 'lateral'::character varying, 'radial'::character varying, 'dish'::character varying])::text[]))),
    CONSTRAINT live_look_source_known CHECK (((source)::text = ANY ((ARRAY['stream'::character varying, 'eye'::character varying, 'single'::character varying])::text[])))
);
CREATE TABLE public.bench_livepass (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    version integer NOT NULL,
    "left" jsonb NOT NULL,
    why jsonb NOT NULL,
    suspect jsonb,
    ended_at timestamp with time zone,
    created_by_id uuid,
    ended_by_id uuid,
    ended_set_id uuid,
    plan_id uuid NOT NULL,
    reading_set_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT bench_livepass_version_check CHECK ((version >= 0)),
    CONSTRAINT live_pass_ended_by_somebody CHECK ((((ended_at IS NULL) AND (ended_by_id IS NULL) AND (ended_set_id IS NULL)) OR ((ended_at IS NOT NULL) AND (ended_by_id IS NOT NULL))))
);
CREATE TABLE public.bench_plan (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    tier character varying(20) NOT NULL,
    step_turns double precision NOT NULL,
    limit_turns double precision NOT NULL,
    untouchable jsonb NOT NULL,
    reason jsonb NOT NULL,
    laps smallint NOT NULL,
    worst_tension_n double precision NOT NULL,
    worst_spoke character varying(4) NOT NULL,
    predicted jsonb NOT NULL,
    created_by_id uuid,
    shop_id uuid NOT NULL,
    reading_set_id uuid NOT NULL,
    mode character varying(16) NOT NULL,
    learnt_id uuid,
    caution jsonb NOT NULL,
    chance double precision,
    chance_before double precision,
    eased_first smallint NOT NULL,
    mean_after_n double precision,
    minutes double precision,
    spread_after_percent double precision,
    unread jsonb NOT NULL,
    by_eye jsonb NOT NULL,
    tier_lateral_mm double precision NOT NULL,
    tier_radial_mm double precision NOT NULL,
    tier_dish_mm double precision NOT NULL,
    tier_tension_percent double precision NOT NULL,
    CONSTRAINT bench_plan_eased_first_check CHECK ((eased_first >= 0)),
    CONSTRAINT bench_plan_laps_check CHECK ((laps >= 0)),
    CONSTRAINT plan_chance_in_range CHECK (((chance IS NULL) OR ((chance >= (0.0)::double precision) AND (chance <= (1.0)::double precision)))),
    CONSTRAINT plan_steps_positive CHECK (((limit_turns > (0.0)::double precision) AND (step_turns > (0.0)::double precision))),
    CONSTRAINT plan_tier_known CHECK (((tier_dish_mm > (0.0)::double precision) AND (tier_dish_mm <= (100.0)::double precision) AND (tier_lateral_mm > (0.0)::double precision) AND (tier_lateral_mm <= (100.0)::double precision) AND (tier_radial_mm > (0.0)::double precision) AND (tier_radial_mm <= (100.0)::double precision) AND (tier_tension_percent > (0.0)::double precision) AND (tier_tension_percent <= (100.0)::double precision)))
);
CREATE TABLE public.bench_planmove (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    place smallint NOT NULL,
    spoke character varying(4) NOT NULL,
    turns double precision NOT NULL,
    tension_before_n double precision NOT NULL,
    tension_after_n double precision NOT NULL,
    state character varying(8) NOT NULL,
    done_turns double precision,
    done_at timestamp with time zone,
    created_by_id uuid,
    done_by_id uuid,
    plan_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    visit smallint NOT NULL,
    why jsonb NOT NULL,
    turn_from_n double precision,
    turn_to_n double precision,
    CONSTRAINT bench_planmove_place_check CHECK ((place >= 0)),
    CONSTRAINT bench_planmove_visit_check CHECK ((visit >= 0)),
    CONSTRAINT done_turns_in_range CHECK (((done_turns IS NULL) OR ((done_turns >= ('-3.0'::numeric)::double precision) AND (done_turns <= (3.0)::double precision)))),
    CONSTRAINT done_turns_when_done CHECK ((((done_turns IS NULL) AND ((state)::text = 'todo'::text)) OR ((done_turns IS NOT NULL) AND ((state)::text = ANY ((ARRAY['done'::character varying, 'changed'::character varying, 'skipped'::character varying])::text[])))))
);
CREATE TABLE public.bench_reading (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    kind character varying(8) NOT NULL,
    spoke character varying(4) NOT NULL,
    revision smallint NOT NULL,
    withdrawn boolean NOT NULL,
    entered jsonb NOT NULL,
    value double precision NOT NULL,
    sd double precision NOT NULL,
    created_by_id uuid,
    meter_table_id uuid,
    shop_id uuid NOT NULL,
    reading_set_id uuid NOT NULL,
    instrument_id uuid,
    CONSTRAINT bench_reading_revision_check CHECK ((revision >= 0)),
    CONSTRAINT length_in_range CHECK ((((kind)::text = 'tension'::text) OR ((value >= ('-60.0'::numeric)::double precision) AND (value <= (60.0)::double precision)))),
    CONSTRAINT reading_kind_known CHECK (((kind)::text = ANY ((ARRAY['tension'::character varying, 'lateral'::character varying, 'radial'::character varying, 'dish'::character varying])::text[]))),
    CONSTRAINT reading_sd_positive CHECK ((sd > (0.0)::double precision)),
    CONSTRAINT tension_in_range CHECK (((NOT ((kind)::text = 'tension'::text)) OR ((value >= (0.0)::double precision) AND (value <= (5000.0)::double precision))))
);
CREATE TABLE public.bench_readingset (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    stage character varying(10) NOT NULL,
    number smallint NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    spread_percent double precision,
    CONSTRAINT bench_readingset_number_check CHECK ((number >= 0)),
    CONSTRAINT reading_set_stage_known CHECK (((stage)::text = ANY ((ARRAY['as_found'::character varying, 'after_pass'::character varying, 'as_left'::character varying])::text[])))
);
CREATE TABLE public.bench_resumeproof (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    readings jsonb NOT NULL,
    held boolean NOT NULL,
    said jsonb NOT NULL,
    created_by_id uuid,
    last_move_id uuid NOT NULL,
    plan_id uuid NOT NULL,
    shop_id uuid NOT NULL
);
CREATE TABLE public.bench_tracewithdrawal (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    created_by_id uuid,
    shop_id uuid NOT NULL,
    trace_id uuid NOT NULL
);
CREATE TABLE public.building_kitsheet (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    "values" jsonb NOT NULL,
    broken jsonb NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL
);
CREATE TABLE public.building_lacinglook (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    seen jsonb NOT NULL,
    errors jsonb NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL
);
CREATE TABLE public.building_lacingprogress (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    placed integer NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT building_lacingprogress_placed_check CHECK ((placed >= 0))
);
CREATE TABLE public.building_oldspoke (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    spoke character varying(4) NOT NULL,
    length_mm double precision,
    note character varying(200) NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    wheel_id uuid NOT NULL
);
CREATE TABLE public.building_smallpartscount (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    kind character varying(8) NOT NULL,
    way character varying(3) NOT NULL,
    count integer NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT small_part_known CHECK (((kind)::text = ANY ((ARRAY['nipple'::character varying, 'washer'::character varying, 'spoke'::character varying])::text[]))),
    CONSTRAINT small_part_way_known CHECK (((way)::text = ANY ((ARRAY['out'::character varying, 'in'::character varying])::text[])))
);
CREATE TABLE public.building_spokechoice (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    side character varying(1) NOT NULL,
    length_mm double precision NOT NULL,
    needed_mm double precision NOT NULL,
    sd_mm double precision NOT NULL,
    end_mm double precision NOT NULL,
    verdict character varying(20) NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    part_id uuid,
    shop_id uuid NOT NULL,
    CONSTRAINT choice_side_known CHECK (((side)::text = ANY ((ARRAY['R'::character varying, 'L'::character varying])::text[])))
);
CREATE TABLE public.building_stepdone (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    procedure character varying(16) NOT NULL,
    step character varying(20) NOT NULL,
    done boolean NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL
);
CREATE TABLE public.building_workfacts (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    purpose character varying(6) NOT NULL,
    "values" jsonb NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT facts_purpose_known CHECK (((purpose)::text = ANY ((ARRAY['strip'::character varying, 'lacing'::character varying])::text[])))
);
CREATE TABLE public.calendar_absence (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    first_day date NOT NULL,
    last_day date NOT NULL,
    why character varying(80) NOT NULL,
    withdrawn_at timestamp with time zone,
    created_by_id uuid,
    person_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT absence_ends_later CHECK ((last_day >= first_day))
);
CREATE TABLE public.calendar_closedday (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    day date NOT NULL,
    name character varying(80) NOT NULL,
    created_by_id uuid,
    shop_id uuid NOT NULL
);
CREATE TABLE public.calendar_openspan (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    weekday smallint NOT NULL,
    starts time without time zone NOT NULL,
    ends time without time zone NOT NULL,
    created_by_id uuid,
    shop_id uuid NOT NULL,
    CONSTRAINT calendar_openspan_weekday_check CHECK ((weekday >= 0)),
    CONSTRAINT open_span_ends_later CHECK ((ends > starts)),
    CONSTRAINT open_span_weekday_known CHECK ((weekday <= 6))
);
CREATE TABLE public.calendar_shift (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    weekday smallint NOT NULL,
    starts time without time zone NOT NULL,
    ends time without time zone NOT NULL,
    created_by_id uuid,
    person_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT calendar_shift_weekday_check CHECK ((weekday >= 0)),
    CONSTRAINT shift_ends_later CHECK ((ends > starts)),
    CONSTRAINT shift_weekday_known CHECK ((weekday <= 6))
);
CREATE TABLE public.condition_checkanswer (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    check_key character varying(40) NOT NULL,
    answer character varying(20) NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL
);
CREATE TABLE public.condition_conditionmark (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    kind character varying(20) NOT NULL,
    spoke character varying(4) NOT NULL,
    measure_mm double precision,
    note character varying(300) NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    photo_id uuid,
    shop_id uuid NOT NULL,
    wheel_id uuid NOT NULL,
    CONSTRAINT mark_kind_known CHECK (((kind)::text = ANY ((ARRAY['dent'::character varying, 'crack'::character varying, 'bulge'::character varying, 'track_mark'::character varying, 'wear'::character varying, 'eyelet'::character varying, 'spoke_broken'::character varying, 'spoke_corroded'::character varying, 'spoke_kinked'::character varying, 'blade_twisted'::character varying, 'nipple_rounded'::character varying, 'nipple_corroded'::character varying, 'nipple_seized'::character varying, 'hub_play'::character varying, 'hub_rough'::character varying, 'axle_bent'::character varying, 'axle_broken'::character varying, 'face_marks'::character varying, 'flange_cracked'::character varying])::text[])))
);
CREATE TABLE public.condition_ending (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    how character varying(8) NOT NULL,
    note character varying(300) NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    mark_id uuid,
    shop_id uuid NOT NULL,
    spoke_break_id uuid,
    CONSTRAINT ending_how_known CHECK (((how)::text = ANY ((ARRAY['mended'::character varying, 'mistake'::character varying])::text[]))),
    CONSTRAINT ending_of_one_thing CHECK ((((mark_id IS NOT NULL) AND (spoke_break_id IS NULL)) OR (((how)::text = 'mistake'::text) AND (mark_id IS NULL) AND (spoke_break_id IS NOT NULL)))),
    CONSTRAINT ending_says_why CHECK ((NOT ((note)::text = ''::text)))
);
CREATE TABLE public.condition_finding (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    cause character varying(40) NOT NULL,
    share double precision NOT NULL,
    overruled boolean NOT NULL,
    reason character varying(500) NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    mended boolean NOT NULL,
    CONSTRAINT finding_share_is_a_share CHECK (((share >= (0.0)::double precision) AND (share <= (1.0)::double precision))),
    CONSTRAINT mending_says_how CHECK (((NOT mended) OR (NOT ((reason)::text = ''::text)))),
    CONSTRAINT overruling_has_reason CHECK (((NOT overruled) OR (NOT ((reason)::text = ''::text))))
);
CREATE TABLE public.condition_framecheck (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    material character varying(10) NOT NULL,
    gap_right_mm double precision NOT NULL,
    gap_left_mm double precision NOT NULL,
    stay_length_mm double precision,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT frame_gaps_not_negative CHECK (((gap_left_mm >= (0.0)::double precision) AND (gap_right_mm >= (0.0)::double precision))),
    CONSTRAINT frame_material_known CHECK (((material)::text = ANY ((ARRAY['steel'::character varying, 'aluminium'::character varying, 'carbon'::character varying, 'titanium'::character varying, 'unknown'::character varying])::text[])))
);
CREATE TABLE public.condition_spokebreak (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    spoke character varying(4) NOT NULL,
    place character varying(12) NOT NULL,
    noticed_on date NOT NULL,
    note character varying(300) NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    wheel_id uuid NOT NULL,
    CONSTRAINT break_place_known CHECK (((place)::text = ANY ((ARRAY['elbow'::character varying, 'middle'::character varying, 'thread'::character varying, 'nipple_head'::character varying, 'rim'::character varying])::text[])))
);
CREATE TABLE public.customers_bike (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    version integer NOT NULL,
    changed_at timestamp with time zone NOT NULL,
    label character varying(120) NOT NULL,
    brake character varying(5) NOT NULL,
    use character varying(10) NOT NULL,
    changed_by_id uuid,
    created_by_id uuid,
    shop_id uuid NOT NULL,
    customer_id uuid NOT NULL,
    axle character varying(10) NOT NULL,
    axle_torque_nm double precision,
    directional boolean NOT NULL,
    dropout character varying(10) NOT NULL,
    tyre character varying(10) NOT NULL,
    asset_number character varying(40) NOT NULL,
    CONSTRAINT bike_axle_known CHECK (((axle)::text = ANY ((ARRAY[''::character varying, 'quick'::character varying, 'nuts'::character varying, 'through'::character varying])::text[]))),
    CONSTRAINT bike_brake_known CHECK (((brake)::text = ANY ((ARRAY['rim'::character varying, 'disc'::character varying, 'hub'::character varying])::text[]))),
    CONSTRAINT bike_dropout_known CHECK (((dropout)::text = ANY ((ARRAY[''::character varying, 'vertical'::character varying, 'horizontal'::character varying, 'through'::character varying])::text[]))),
    CONSTRAINT bike_has_label CHECK ((NOT ((label)::text = ''::text))),
    CONSTRAINT bike_tyre_known CHECK (((tyre)::text = ANY ((ARRAY[''::character varying, 'tubed'::character varying, 'tubeless'::character varying, 'glued'::character varying])::text[]))),
    CONSTRAINT customers_bike_version_check CHECK ((version >= 0))
);
CREATE TABLE public.customers_customer (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    version integer NOT NULL,
    changed_at timestamp with time zone NOT NULL,
    name character varying(120) NOT NULL,
    phone character varying(40) NOT NULL,
    email character varying(254) NOT NULL,
    note character varying(500) NOT NULL,
    changed_by_id uuid,
    created_by_id uuid,
    shop_id uuid NOT NULL,
    language character varying(10) NOT NULL,
    merged_into_id uuid,
    prefers character varying(8) NOT NULL,
    CONSTRAINT customer_has_name CHECK ((NOT ((name)::text = ''::text))),
    CONSTRAINT customer_not_into_self CHECK (((merged_into_id IS NULL) OR (NOT ((merged_into_id = id) AND (merged_into_id IS NOT NULL))))),
    CONSTRAINT customer_prefers_known CHECK (((prefers)::text = ANY ((ARRAY['phone'::character varying, 'text'::character varying, 'email'::character varying])::text[]))),
    CONSTRAINT customers_customer_version_check CHECK ((version >= 0))
);
CREATE TABLE public.django_content_type (
    id integer NOT NULL,
    app_label character varying(100) NOT NULL,
    model character varying(100) NOT NULL
);
ALTER TABLE public.django_content_type ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.django_content_type_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.django_migrations (
    id integer NOT NULL,
    app character varying(255) NOT NULL,
    name character varying(255) NOT NULL,
    applied timestamp with time zone NOT NULL
);
ALTER TABLE public.django_migrations ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.django_migrations_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.django_session (
    session_key character varying(40) NOT NULL,
    session_data text NOT NULL,
    expire_date timestamp with time zone NOT NULL
);
CREATE TABLE public.fleet_lot (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    version integer NOT NULL,
    changed_at timestamp with time zone NOT NULL,
    name character varying(120) NOT NULL,
    changed_by_id uuid,
    created_by_id uuid,
    customer_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT fleet_lot_version_check CHECK ((version >= 0)),
    CONSTRAINT lot_has_name CHECK ((NOT ((name)::text = ''::text)))
);
CREATE TABLE public.fleet_lotitem (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    place smallint NOT NULL,
    asset_number character varying(40) NOT NULL,
    exception character varying(200) NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    lot_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT fleet_lotitem_place_check CHECK ((place >= 0))
);
CREATE TABLE public.instruments_instrument (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    name character varying(120) NOT NULL,
    serial character varying(60) NOT NULL,
    created_by_id uuid,
    shop_id uuid NOT NULL,
    address character varying(120) NOT NULL,
    changed_at timestamp with time zone NOT NULL,
    changed_by_id uuid,
    check_every_days smallint NOT NULL,
    kind character varying(16) NOT NULL,
    owner character varying(120) NOT NULL,
    use character varying(8) NOT NULL,
    version integer NOT NULL,
    CONSTRAINT bench_instrument_check_every_days_check CHECK ((check_every_days >= 0)),
    CONSTRAINT bench_instrument_version_check CHECK ((version >= 0)),
    CONSTRAINT instrument_days_in_range CHECK (((check_every_days >= 1) AND (check_every_days <= 3650))),
    CONSTRAINT instrument_kind_known CHECK (((kind)::text = ANY ((ARRAY['tension_meter'::character varying, 'dial'::character varying, 'caliper'::character varying, 'ruler'::character varying, 'dishing_gauge'::character varying, 'stand'::character varying])::text[]))),
    CONSTRAINT instrument_use_known CHECK (((use)::text = ANY ((ARRAY['in_use'::character varying, 'resting'::character varying, 'retired'::character varying])::text[])))
);
CREATE TABLE public.instruments_instrumentcheck (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    passed boolean NOT NULL,
    note jsonb NOT NULL,
    figures jsonb NOT NULL,
    created_by_id uuid,
    instrument_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    table_id uuid
);
CREATE TABLE public.instruments_metertable (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    spoke_kind character varying(40) NOT NULL,
    readings jsonb NOT NULL,
    forces_n jsonb NOT NULL,
    resolution double precision NOT NULL,
    residual_n double precision NOT NULL,
    created_by_id uuid,
    meter_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    derived_from_id uuid,
    points jsonb NOT NULL,
    source character varying(10) NOT NULL,
    CONSTRAINT derived_table_says_from_what CHECK (((NOT ((source)::text = 'derived'::text)) OR (derived_from_id IS NOT NULL))),
    CONSTRAINT meter_residual_not_negative CHECK ((residual_n >= (0.0)::double precision)),
    CONSTRAINT meter_resolution_positive CHECK ((resolution > (0.0)::double precision)),
    CONSTRAINT meter_table_source_known CHECK (((source)::text = ANY ((ARRAY['maker'::character varying, 'calibrated'::character varying, 'derived'::character varying])::text[])))
);
CREATE TABLE public.links_calendarfeed (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    ended_at timestamp with time zone,
    created_by_id uuid,
    ended_by_id uuid,
    shop_id uuid NOT NULL
);
CREATE TABLE public.links_customerlink (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    language character varying(10) NOT NULL,
    asked jsonb NOT NULL,
    expires_at timestamp with time zone NOT NULL,
    revoked_at timestamp with time zone,
    answered_at timestamp with time zone,
    created_by_id uuid,
    decision_id uuid,
    job_id uuid NOT NULL,
    revoked_by_id uuid,
    shop_id uuid NOT NULL,
    CONSTRAINT link_answered_by_a_decision CHECK ((((answered_at IS NULL) AND (decision_id IS NULL)) OR ((answered_at IS NOT NULL) AND (decision_id IS NOT NULL)))),
    CONSTRAINT link_answers_a_question CHECK (((decision_id IS NULL) OR (NOT (asked = '{}'::jsonb))))
);
CREATE TABLE public.links_linkvisit (
    id bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    wrote boolean NOT NULL,
    link_id uuid NOT NULL
);
ALTER TABLE public.links_linkvisit ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_linkvisit_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.links_strangevisit (
    id bigint NOT NULL,
    whence character varying(64) NOT NULL,
    at timestamp with time zone NOT NULL
);
ALTER TABLE public.links_strangevisit ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.links_strangevisit_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.live_liveevent (
    id bigint NOT NULL,
    xid bigint NOT NULL,
    topic character varying(12) NOT NULL,
    subject character varying(60) NOT NULL,
    job uuid,
    reading_set uuid,
    plan uuid,
    spoke character varying(8) NOT NULL,
    by character varying(40) NOT NULL,
    tab character varying(40) NOT NULL,
    at timestamp with time zone NOT NULL,
    shop_id uuid NOT NULL
);
ALTER TABLE public.live_liveevent ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.live_liveevent_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.messages_caughtmail (
    id bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    "to" text NOT NULL,
    subject character varying(200) NOT NULL,
    text text NOT NULL,
    shop_id uuid
);
ALTER TABLE public.messages_caughtmail ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.messages_caughtmail_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.messages_message (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    kind character varying(10) NOT NULL,
    language character varying(10) NOT NULL,
    "to" character varying(254) NOT NULL,
    subject character varying(200) NOT NULL,
    text text NOT NULL,
    state character varying(8) NOT NULL,
    tries smallint NOT NULL,
    problem character varying(200) NOT NULL,
    sent_at timestamp with time zone,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT message_kind_known CHECK (((kind)::text = ANY ((ARRAY['ask'::character varying, 'promised'::character varying, 'moved'::character varying, 'ready'::character varying, 'status'::character varying])::text[]))),
    CONSTRAINT message_sent_has_time CHECK ((((sent_at IS NOT NULL) AND ((state)::text = 'sent'::text)) OR ((NOT ((state)::text = 'sent'::text)) AND (sent_at IS NULL)))),
    CONSTRAINT message_state_known CHECK (((state)::text = ANY ((ARRAY['queued'::character varying, 'going'::character varying, 'sent'::character varying, 'failed'::character varying, 'unsure'::character varying])::text[]))),
    CONSTRAINT messages_message_tries_check CHECK ((tries >= 0))
);
CREATE TABLE public.portable_sent (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    to_shop character varying(120) NOT NULL,
    created_by_id uuid,
    customer_id uuid NOT NULL,
    shop_id uuid NOT NULL
);
CREATE TABLE public.portable_taken (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    origin uuid NOT NULL,
    created_by_id uuid,
    customer_id uuid,
    shop_id uuid NOT NULL,
    wheel_id uuid,
    CONSTRAINT taken_is_one_thing CHECK ((((customer_id IS NULL) OR (wheel_id IS NULL)) AND (1 = (
CASE
    WHEN (customer_id IS NULL) THEN 1
    ELSE 0
END +
CASE
    WHEN (wheel_id IS NULL) THEN 1
    ELSE 0
END))))
);
CREATE TABLE public.portable_underway (
    id uuid NOT NULL,
    shop_pk uuid NOT NULL,
    done integer NOT NULL,
    total integer NOT NULL,
    started_at timestamp with time zone NOT NULL,
    CONSTRAINT portable_underway_done_check CHECK ((done >= 0)),
    CONSTRAINT portable_underway_total_check CHECK ((total >= 0))
);
CREATE TABLE public.practice_practicerun (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    exercise character varying(30) NOT NULL,
    kind character varying(40) NOT NULL,
    mode character varying(10) NOT NULL,
    tier character varying(20) NOT NULL,
    asked_faults jsonb NOT NULL,
    made jsonb NOT NULL,
    now jsonb NOT NULL,
    readings jsonb NOT NULL,
    moves jsonb NOT NULL,
    passes jsonb NOT NULL,
    answers jsonb NOT NULL,
    deeds integer NOT NULL,
    touches integer NOT NULL,
    turned double precision NOT NULL,
    marks jsonb,
    mark smallint,
    ended_at timestamp with time zone,
    created_by_id uuid,
    shop_id uuid NOT NULL,
    CONSTRAINT practice_mark_in_range CHECK (((mark IS NULL) OR (mark <= 3))),
    CONSTRAINT practice_marked_when_ended CHECK (((mark IS NULL) OR (ended_at IS NOT NULL))),
    CONSTRAINT practice_practicerun_deeds_check CHECK ((deeds >= 0)),
    CONSTRAINT practice_practicerun_mark_check CHECK ((mark >= 0)),
    CONSTRAINT practice_practicerun_touches_check CHECK ((touches >= 0))
);
CREATE TABLE public.practice_practicetask (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    exercise character varying(30) NOT NULL,
    taken_back_at timestamp with time zone,
    created_by_id uuid,
    person_id uuid NOT NULL,
    shop_id uuid NOT NULL
);
CREATE TABLE public.privacy_consent (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    purpose character varying(8) NOT NULL,
    given boolean NOT NULL,
    created_by_id uuid,
    customer_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT consent_purpose_known CHECK (((purpose)::text = ANY ((ARRAY['photos'::character varying, 'name'::character varying])::text[])))
);
CREATE TABLE public.privacy_erasure (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    counts jsonb NOT NULL,
    by_itself boolean NOT NULL,
    created_by_id uuid,
    customer_id uuid NOT NULL,
    shop_id uuid NOT NULL
);
CREATE TABLE public.procrastinate_events (
    id bigint NOT NULL,
    job_id bigint NOT NULL,
    type public.procrastinate_job_event_type,
    at timestamp with time zone DEFAULT now()
);
CREATE SEQUENCE public.procrastinate_events_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;
ALTER SEQUENCE public.procrastinate_events_id_seq OWNED BY public.procrastinate_events.id;
CREATE SEQUENCE public.procrastinate_jobs_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;
ALTER SEQUENCE public.procrastinate_jobs_id_seq OWNED BY public.procrastinate_jobs.id;
CREATE TABLE public.procrastinate_periodic_defers (
    id bigint NOT NULL,
    task_name character varying(128) NOT NULL,
    defer_timestamp bigint,
    job_id bigint,
    periodic_id character varying(128) DEFAULT ''::character varying NOT NULL
);
CREATE SEQUENCE public.procrastinate_periodic_defers_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;
ALTER SEQUENCE public.procrastinate_periodic_defers_id_seq OWNED BY public.procrastinate_periodic_defers.id;
CREATE TABLE public.procrastinate_workers (
    id bigint NOT NULL,
    last_heartbeat timestamp with time zone DEFAULT now() NOT NULL
);
ALTER TABLE public.procrastinate_workers ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.procrastinate_workers_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.promises_shopplay (
    shop_id uuid NOT NULL,
    chances jsonb NOT NULL,
    fingerprint character varying(64) NOT NULL,
    played_at timestamp with time zone
);
CREATE TABLE public.queue_job (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    version integer NOT NULL,
    changed_at timestamp with time zone NOT NULL,
    number integer NOT NULL,
    complaint character varying(500) NOT NULL,
    stage character varying(20) NOT NULL,
    tier character varying(20) NOT NULL,
    promised_at timestamp with time zone,
    waiting_on character varying(10) NOT NULL,
    handed_back_at timestamp with time zone,
    assigned_to_id uuid,
    changed_by_id uuid,
    created_by_id uuid,
    shop_id uuid NOT NULL,
    wheel_id uuid NOT NULL,
    complaint_tags jsonb NOT NULL,
    load_kg smallint,
    recheck_on date,
    with_bike boolean NOT NULL,
    ended_as character varying(20) NOT NULL,
    left_with character varying(8) NOT NULL,
    expected_on date,
    promise_chance double precision,
    ready_at timestamp with time zone,
    waits_since timestamp with time zone,
    wanted_at timestamp with time zone,
    hook_id uuid,
    tier_lateral_mm double precision NOT NULL,
    tier_radial_mm double precision NOT NULL,
    tier_dish_mm double precision NOT NULL,
    tier_tension_percent double precision NOT NULL,
    CONSTRAINT job_done_when_handed_back CHECK ((((handed_back_at IS NOT NULL) AND ((stage)::text = 'done'::text)) OR ((NOT ((stage)::text = 'done'::text)) AND (handed_back_at IS NULL)))),
    CONSTRAINT job_ended_somehow CHECK (((((ended_as)::text = ANY ((ARRAY['repaired'::character varying, 'no_fault'::character varying, 'declined'::character varying, 'cancelled'::character varying, 'beyond_repair'::character varying, 'not_fetched'::character varying])::text[])) AND ((stage)::text = 'done'::text)) OR (((ended_as)::text = ''::text) AND (NOT ((stage)::text = 'done'::text))))),
    CONSTRAINT job_left_with_known CHECK ((((left_with)::text = ''::text) OR (((left_with)::text = ANY ((ARRAY['short'::character varying, 'unsafe'::character varying])::text[])) AND ((stage)::text = 'done'::text)))),
    CONSTRAINT job_load_in_range CHECK (((load_kg IS NULL) OR ((load_kg >= 20) AND (load_kg <= 400)))),
    CONSTRAINT job_promise_chance_in_range CHECK (((promise_chance IS NULL) OR ((promise_chance >= (0.0)::double precision) AND (promise_chance <= (1.0)::double precision)))),
    CONSTRAINT job_ready_at_the_end CHECK (((ready_at IS NULL) OR ((stage)::text = ANY ((ARRAY['hand_back'::character varying, 'done'::character varying])::text[])))),
    CONSTRAINT job_stage_known CHECK (((stage)::text = ANY ((ARRAY['take_in'::character varying, 'check_on_bike'::character varying, 'check_off_bike'::character varying, 'identify'::character varying, 'as_found'::character varying, 'decide'::character varying, 'parts'::character varying, 'strip_lace'::character varying, 'true'::character varying, 'settle'::character varying, 'as_left'::character varying, 'refit'::character varying, 'hand_back'::character varying, 'done'::character varying])::text[]))),
    CONSTRAINT job_tier_known CHECK (((tier_dish_mm > (0.0)::double precision) AND (tier_dish_mm <= (100.0)::double precision) AND (tier_lateral_mm > (0.0)::double precision) AND (tier_lateral_mm <= (100.0)::double precision) AND (tier_radial_mm > (0.0)::double precision) AND (tier_radial_mm <= (100.0)::double precision) AND (tier_tension_percent > (0.0)::double precision) AND (tier_tension_percent <= (100.0)::double precision) AND (NOT ((tier)::text = ''::text)))),
    CONSTRAINT job_waits_since_something CHECK (((((waiting_on)::text = ''::text) AND (waits_since IS NULL)) OR ((NOT ((waiting_on)::text = ''::text)) AND (waits_since IS NOT NULL)))),
    CONSTRAINT queue_job_load_kg_check CHECK ((load_kg >= 0)),
    CONSTRAINT queue_job_number_check CHECK ((number >= 0)),
    CONSTRAINT queue_job_version_check CHECK ((version >= 0))
);
CREATE TABLE public.queue_jobevent (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    kind character varying(20) NOT NULL,
    from_stage character varying(20) NOT NULL,
    to_stage character varying(20) NOT NULL,
    note jsonb NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL
);
CREATE TABLE public.queue_jobfind (
    job_id uuid NOT NULL,
    words text NOT NULL,
    digits character varying(40) NOT NULL,
    vector tsvector NOT NULL,
    shop_id uuid NOT NULL
);
CREATE TABLE public.queue_photo (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    caption character varying(200) NOT NULL,
    width integer NOT NULL,
    height integer NOT NULL,
    data bytea NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT queue_photo_height_check CHECK ((height >= 0)),
    CONSTRAINT queue_photo_width_check CHECK ((width >= 0))
);
CREATE TABLE public.queue_place (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    version integer NOT NULL,
    changed_at timestamp with time zone NOT NULL,
    kind character varying(5) NOT NULL,
    name character varying(40) NOT NULL,
    in_use boolean NOT NULL,
    changed_by_id uuid,
    created_by_id uuid,
    shop_id uuid NOT NULL,
    CONSTRAINT place_has_name CHECK ((NOT ((name)::text = ''::text))),
    CONSTRAINT place_kind_known CHECK (((kind)::text = ANY ((ARRAY['stand'::character varying, 'hook'::character varying])::text[]))),
    CONSTRAINT queue_place_version_check CHECK ((version >= 0))
);
CREATE TABLE public.queue_shoppace (
    shop_id uuid NOT NULL,
    paces jsonb NOT NULL,
    waits jsonb NOT NULL,
    learned_at timestamp with time zone NOT NULL,
    learned_jobs integer NOT NULL,
    CONSTRAINT queue_shoppace_learned_jobs_check CHECK ((learned_jobs >= 0))
);
CREATE TABLE public.queue_shoptier (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    version integer NOT NULL,
    changed_at timestamp with time zone NOT NULL,
    name character varying(20) NOT NULL,
    lateral_mm double precision NOT NULL,
    radial_mm double precision NOT NULL,
    dish_mm double precision NOT NULL,
    tension_percent double precision NOT NULL,
    plain character varying(200) NOT NULL,
    in_use boolean NOT NULL,
    changed_by_id uuid,
    created_by_id uuid,
    shop_id uuid NOT NULL,
    CONSTRAINT queue_shoptier_version_check CHECK ((version >= 0)),
    CONSTRAINT tier_dish_in_range CHECK (((dish_mm >= (0.05)::double precision) AND (dish_mm <= (2.0)::double precision))),
    CONSTRAINT tier_has_name CHECK ((NOT ((name)::text = ''::text))),
    CONSTRAINT tier_lateral_in_range CHECK (((lateral_mm >= (0.05)::double precision) AND (lateral_mm <= (2.0)::double precision))),
    CONSTRAINT tier_radial_in_range CHECK (((radial_mm >= (0.05)::double precision) AND (radial_mm <= (2.0)::double precision))),
    CONSTRAINT tier_tension_in_range CHECK (((tension_percent >= (3.0)::double precision) AND (tension_percent <= (40.0)::double precision)))
);
CREATE TABLE public.queue_signature (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    purpose character varying(8) NOT NULL,
    name character varying(120) NOT NULL,
    strokes jsonb NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT signature_has_name CHECK ((NOT ((name)::text = ''::text))),
    CONSTRAINT signature_purpose_known CHECK (((purpose)::text = ANY ((ARRAY['brought'::character varying, 'fetched'::character varying])::text[])))
);
CREATE TABLE public.queue_stagetime (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    stage character varying(20) NOT NULL,
    tier character varying(20) NOT NULL,
    taken_min double precision NOT NULL,
    usual_min double precision NOT NULL,
    estimated_min double precision NOT NULL,
    counts boolean NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT stage_time_forward CHECK ((taken_min >= (0.0)::double precision))
);
CREATE TABLE public.queue_waited (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    "on" character varying(10) NOT NULL,
    since timestamp with time zone NOT NULL,
    until timestamp with time zone,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT waited_for_somebody CHECK ((("on")::text = ANY ((ARRAY['customer'::character varying, 'parts'::character varying, 'owner'::character varying])::text[]))),
    CONSTRAINT waited_forward CHECK (((until IS NULL) OR (until >= since)))
);
CREATE TABLE public.queue_workspan (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    stage character varying(20) NOT NULL,
    started_at timestamp with time zone NOT NULL,
    last_deed_at timestamp with time zone NOT NULL,
    ended_at timestamp with time zone,
    ended character varying(12) NOT NULL,
    believed_at timestamp with time zone,
    note character varying(300) NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    person_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    stand_id uuid,
    ended_by_id uuid,
    CONSTRAINT work_end_known CHECK (((ended)::text = ANY ((ARRAY[''::character varying, 'put_down'::character varying, 'handed_over'::character varying, 'stage'::character varying, 'other'::character varying, 'forgotten'::character varying])::text[]))),
    CONSTRAINT work_ended_somehow CHECK (((((ended)::text = ''::text) AND (ended_at IS NULL)) OR ((ended_at >= started_at) AND (NOT ((ended)::text = ''::text))))),
    CONSTRAINT work_stage_known CHECK (((stage)::text = ANY ((ARRAY['take_in'::character varying, 'check_on_bike'::character varying, 'check_off_bike'::character varying, 'identify'::character varying, 'as_found'::character varying, 'decide'::character varying, 'parts'::character varying, 'strip_lace'::character varying, 'true'::character varying, 'settle'::character varying, 'as_left'::character varying, 'refit'::character varying, 'hand_back'::character varying])::text[])))
);
CREATE TABLE public.records_signoff (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    tier character varying(20) NOT NULL,
    figures jsonb NOT NULL,
    short_of jsonb NOT NULL,
    roadworthy boolean NOT NULL,
    reason character varying(1000) NOT NULL,
    as_found_id uuid,
    as_left_id uuid NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    tier_lateral_mm double precision NOT NULL,
    tier_radial_mm double precision NOT NULL,
    tier_dish_mm double precision NOT NULL,
    tier_tension_percent double precision NOT NULL,
    CONSTRAINT sign_off_short_of_tier_has_reason CHECK ((((short_of = '[]'::jsonb) AND roadworthy) OR (NOT ((reason)::text = ''::text)))),
    CONSTRAINT sign_off_tier_known CHECK (((tier_dish_mm > (0.0)::double precision) AND (tier_dish_mm <= (100.0)::double precision) AND (tier_lateral_mm > (0.0)::double precision) AND (tier_lateral_mm <= (100.0)::double precision) AND (tier_radial_mm > (0.0)::double precision) AND (tier_radial_mm <= (100.0)::double precision) AND (tier_tension_percent > (0.0)::double precision) AND (tier_tension_percent <= (100.0)::double precision)))
);
CREATE TABLE public.repair_decision (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    outcome character varying(8) NOT NULL,
    chosen jsonb NOT NULL,
    offered jsonb NOT NULL,
    tier character varying(20) NOT NULL,
    price_minor bigint,
    minutes integer NOT NULL,
    by_whom character varying(120) NOT NULL,
    how character varying(8) NOT NULL,
    warning jsonb NOT NULL,
    note character varying(500) NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    currency character varying(3) NOT NULL,
    lines jsonb NOT NULL,
    net_minor bigint,
    quote_version integer NOT NULL,
    tax_basis_points integer NOT NULL,
    tax_minor bigint,
    words jsonb NOT NULL,
    tier_lateral_mm double precision NOT NULL,
    tier_radial_mm double precision NOT NULL,
    tier_dish_mm double precision NOT NULL,
    tier_tension_percent double precision NOT NULL,
    CONSTRAINT approval_of_something CHECK ((((outcome)::text = 'refused'::text) OR (NOT (chosen = '[]'::jsonb)))),
    CONSTRAINT decision_adds_up CHECK (((price_minor IS NULL) OR (net_minor IS NULL) OR (price_minor = (net_minor + tax_minor)))),
    CONSTRAINT decision_by_somebody CHECK ((NOT ((by_whom)::text = ''::text))),
    CONSTRAINT decision_outcome_known CHECK (((outcome)::text = ANY ((ARRAY['approved'::character varying, 'refused'::character varying])::text[]))),
    CONSTRAINT decision_tier_known CHECK (((tier_dish_mm > (0.0)::double precision) AND (tier_dish_mm <= (100.0)::double precision) AND (tier_lateral_mm > (0.0)::double precision) AND (tier_lateral_mm <= (100.0)::double precision) AND (tier_radial_mm > (0.0)::double precision) AND (tier_radial_mm <= (100.0)::double precision) AND (tier_tension_percent > (0.0)::double precision) AND (tier_tension_percent <= (100.0)::double precision))),
    CONSTRAINT repair_decision_minutes_check CHECK ((minutes >= 0)),
    CONSTRAINT repair_decision_quote_version_check CHECK ((quote_version >= 0)),
    CONSTRAINT repair_decision_tax_basis_points_check CHECK ((tax_basis_points >= 0))
);
CREATE TABLE public.repair_jobquote (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    version integer NOT NULL,
    changed_at timestamp with time zone NOT NULL,
    extras jsonb NOT NULL,
    changed_by_id uuid,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT repair_jobquote_version_check CHECK ((version >= 0))
);
CREATE TABLE public.repair_payment (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    amount_minor bigint NOT NULL,
    how character varying(8) NOT NULL,
    note character varying(200) NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT payment_how_known CHECK (((how)::text = ANY ((ARRAY['cash'::character varying, 'card'::character varying, 'transfer'::character varying, 'account'::character varying])::text[]))),
    CONSTRAINT payment_of_something CHECK ((NOT (amount_minor = 0)))
);
CREATE TABLE public.repair_refitanswer (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    step character varying(20) NOT NULL,
    result character varying(5) NOT NULL,
    note character varying(300) NOT NULL,
    created_by_id uuid,
    job_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT refit_result_known CHECK (((result)::text = ANY ((ARRAY['right'::character varying, 'wrong'::character varying])::text[])))
);
CREATE TABLE public.signing_signingkey (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    public bytea NOT NULL,
    sealed_private bytea,
    vouched_signature bytea,
    ended_at timestamp with time zone,
    ended_as character varying(10) NOT NULL,
    created_by_id uuid,
    ended_by_id uuid,
    shop_id uuid NOT NULL,
    vouched_by_id uuid,
    CONSTRAINT signing_key_ends_once CHECK (((((ended_as)::text = ''::text) AND (ended_at IS NULL) AND (sealed_private IS NOT NULL)) OR (((ended_as)::text = ANY ((ARRAY['followed'::character varying, 'lost'::character varying, 'stolen'::character varying])::text[])) AND (ended_at IS NOT NULL) AND (sealed_private IS NULL)))),
    CONSTRAINT signing_key_vouched_by_signature CHECK ((((vouched_by_id IS NULL) AND (vouched_signature IS NULL)) OR ((vouched_by_id IS NOT NULL) AND (vouched_signature IS NOT NULL))))
);
CREATE TABLE public.stock_balance (
    part_id uuid NOT NULL,
    on_hand integer NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT bin_never_below_nothing CHECK ((on_hand >= 0))
);
CREATE TABLE public.stock_claimed (
    id bigint NOT NULL,
    count integer NOT NULL,
    since timestamp with time zone NOT NULL,
    job_id uuid NOT NULL,
    part_id uuid NOT NULL,
    shop_id uuid NOT NULL,
    CONSTRAINT claim_never_below_nothing CHECK ((count >= 0))
);
ALTER TABLE public.stock_claimed ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.stock_claimed_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.stock_movement (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    kind character varying(8) NOT NULL,
    delta integer NOT NULL,
    claim_delta integer NOT NULL,
    note jsonb NOT NULL,
    created_by_id uuid,
    job_id uuid,
    shop_id uuid NOT NULL,
    order_line_id uuid,
    part_id uuid NOT NULL,
    CONSTRAINT movement_claim_is_a_jobs CHECK (((claim_delta = 0) OR (job_id IS NOT NULL))),
    CONSTRAINT movement_kind_known CHECK (((kind)::text = ANY ((ARRAY['reserve'::character varying, 'release'::character varying, 'take'::character varying, 'return'::character varying, 'count'::character varying, 'receive'::character varying, 'cut'::character varying])::text[])))
);
CREATE TABLE public.stock_orderline (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    count integer NOT NULL,
    created_by_id uuid,
    shop_id uuid NOT NULL,
    part_id uuid NOT NULL,
    order_id uuid NOT NULL,
    CONSTRAINT order_line_of_something CHECK ((count >= 1)),
    CONSTRAINT stock_orderline_count_check CHECK ((count >= 0))
);
CREATE TABLE public.stock_part (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    version integer NOT NULL,
    changed_at timestamp with time zone NOT NULL,
    kind character varying(8) NOT NULL,
    name character varying(80) NOT NULL,
    bin character varying(20) NOT NULL,
    supplier character varying(80) NOT NULL,
    supplier_code character varying(40) NOT NULL,
    minimum integer NOT NULL,
    pack integer NOT NULL,
    lead_days integer NOT NULL,
    price_minor bigint,
    attributes jsonb NOT NULL,
    changed_by_id uuid,
    created_by_id uuid,
    shop_id uuid NOT NULL,
    CONSTRAINT part_kind_known CHECK (((kind)::text = ANY ((ARRAY['spoke'::character varying, 'nipple'::character varying, 'washer'::character varying, 'rim'::character varying, 'hub'::character varying, 'tape'::character varying, 'other'::character varying])::text[]))),
    CONSTRAINT part_pack_at_least_one CHECK ((pack >= 1)),
    CONSTRAINT stock_part_lead_days_check CHECK ((lead_days >= 0)),
    CONSTRAINT stock_part_minimum_check CHECK ((minimum >= 0)),
    CONSTRAINT stock_part_pack_check CHECK ((pack >= 0)),
    CONSTRAINT stock_part_price_minor_check CHECK ((price_minor >= 0)),
    CONSTRAINT stock_part_version_check CHECK ((version >= 0))
);
CREATE TABLE public.stock_purchaseorder (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    version integer NOT NULL,
    changed_at timestamp with time zone NOT NULL,
    supplier character varying(80) NOT NULL,
    state character varying(9) NOT NULL,
    changed_by_id uuid,
    created_by_id uuid,
    shop_id uuid NOT NULL,
    CONSTRAINT order_state_known CHECK (((state)::text = ANY ((ARRAY['sent'::character varying, 'received'::character varying, 'cancelled'::character varying])::text[]))),
    CONSTRAINT stock_purchaseorder_version_check CHECK ((version >= 0))
);
CREATE TABLE public.trail_change (
    id bigint NOT NULL,
    topic character varying(12) NOT NULL,
    "row" uuid NOT NULL,
    deed character varying(7) NOT NULL,
    fields jsonb NOT NULL,
    at timestamp with time zone NOT NULL,
    by_id uuid,
    shop_id uuid NOT NULL
);
ALTER TABLE public.trail_change ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.trail_change_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.upkeep_backuprun (
    id bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    file character varying(120) NOT NULL,
    bytes bigint NOT NULL,
    seconds double precision NOT NULL,
    good boolean NOT NULL,
    copied boolean NOT NULL,
    reason character varying(300) NOT NULL
);
ALTER TABLE public.upkeep_backuprun ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.upkeep_backuprun_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.wheels_pattern (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    version integer NOT NULL,
    changed_at timestamp with time zone NOT NULL,
    name character varying(80) NOT NULL,
    note character varying(500) NOT NULL,
    "position" character varying(5) NOT NULL,
    brakes jsonb NOT NULL,
    specification jsonb NOT NULL,
    tier character varying(20) NOT NULL,
    in_use boolean NOT NULL,
    changed_by_id uuid,
    created_by_id uuid,
    shop_id uuid NOT NULL,
    CONSTRAINT pattern_has_name CHECK ((NOT ((name)::text = ''::text))),
    CONSTRAINT pattern_position_known CHECK ((("position")::text = ANY ((ARRAY['front'::character varying, 'rear'::character varying])::text[]))),
    CONSTRAINT wheels_pattern_version_check CHECK ((version >= 0))
);
CREATE TABLE public.wheels_wheel (
    id uuid NOT NULL,
    created_at timestamp with time zone NOT NULL,
    version integer NOT NULL,
    changed_at timestamp with time zone NOT NULL,
    "position" character varying(5) NOT NULL,
    kind character varying(40) NOT NULL,
    measured boolean NOT NULL,
    specification jsonb NOT NULL,
    bike_id uuid NOT NULL,
    changed_by_id uuid,
    created_by_id uuid,
    shop_id uuid NOT NULL,
    uncertainty_mm jsonb NOT NULL,
    asset_number character varying(40) NOT NULL,
    CONSTRAINT wheel_position_known CHECK ((("position")::text = ANY ((ARRAY['front'::character varying, 'rear'::character varying])::text[]))),
    CONSTRAINT wheels_wheel_version_check CHECK ((version >= 0))
);
ALTER TABLE ONLY public.procrastinate_events ALTER COLUMN id SET DEFAULT nextval('public.procrastinate_events_id_seq'::regclass);
ALTER TABLE ONLY public.procrastinate_jobs ALTER COLUMN id SET DEFAULT nextval('public.procrastinate_jobs_id_seq'::regclass);
ALTER TABLE ONLY public.procrastinate_periodic_defers ALTER COLUMN id SET DEFAULT nextval('public.procrastinate_periodic_defers_id_seq'::regclass);
SELECT pg_catalog.setval('public.accounts_pintry_id_seq', 1, false);
SELECT pg_catalog.setval('public.accounts_user_groups_id_seq', 1, false);
SELECT pg_catalog.setval('public.accounts_user_user_permissions_id_seq', 1, false);
SELECT pg_catalog.setval('public.api_writekey_id_seq', 1, false);
SELECT pg_catalog.setval('public.auth_group_id_seq', 1, false);
SELECT pg_catalog.setval('public.auth_group_permissions_id_seq', 1, false);
SELECT pg_catalog.setval('public.auth_permission_id_seq', 1, false);
SELECT pg_catalog.setval('public.axes_accessattempt_id_seq', 1, false);
SELECT pg_catalog.setval('public.axes_accessfailurelog_id_seq', 1, false);
SELECT pg_catalog.setval('public.axes_accesslog_id_seq', 1, false);
SELECT pg_catalog.setval('public.django_content_type_id_seq', 1, false);
SELECT pg_catalog.setval('public.django_migrations_id_seq', 174, true);
SELECT pg_catalog.setval('public.links_linkvisit_id_seq', 1, false);
SELECT pg_catalog.setval('public.links_strangevisit_id_seq', 1, false);
SELECT pg_catalog.setval('public.live_liveevent_id_seq', 1, false);
SELECT pg_catalog.setval('public.messages_caughtmail_id_seq', 1, false);
SELECT pg_catalog.setval('public.procrastinate_events_id_seq', 1, false);
SELECT pg_catalog.setval('public.procrastinate_jobs_id_seq', 1, false);
SELECT pg_catalog.setval('public.procrastinate_periodic_defers_id_seq', 1, false);
SELECT pg_catalog.setval('public.procrastinate_workers_id_seq', 1, false);
SELECT pg_catalog.setval('public.stock_claimed_id_seq', 1, false);
SELECT pg_catalog.setval('public.trail_change_id_seq', 1, false);
SELECT pg_catalog.setval('public.upkeep_backuprun_id_seq', 1, false);
ALTER TABLE ONLY public.accounts_passwordletter
    ADD CONSTRAINT accounts_passwordletter_pkey PRIMARY KEY (person_id);
ALTER TABLE ONLY public.accounts_pintry
    ADD CONSTRAINT accounts_pintry_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.accounts_secondfactor
    ADD CONSTRAINT accounts_secondfactor_pkey PRIMARY KEY (person_id);
ALTER TABLE ONLY public.accounts_shop
    ADD CONSTRAINT accounts_shop_code_332b940c_uniq UNIQUE (code);
ALTER TABLE ONLY public.accounts_shop
    ADD CONSTRAINT accounts_shop_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.accounts_signedin
    ADD CONSTRAINT accounts_signedin_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.accounts_signedin
    ADD CONSTRAINT accounts_signedin_session_key_key UNIQUE (session_key);
ALTER TABLE ONLY public.accounts_user_groups
    ADD CONSTRAINT accounts_user_groups_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.accounts_user_groups
    ADD CONSTRAINT accounts_user_groups_user_id_group_id_59c0b32f_uniq UNIQUE (user_id, group_id);
ALTER TABLE ONLY public.accounts_user
    ADD CONSTRAINT accounts_user_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.accounts_user_user_permissions
    ADD CONSTRAINT accounts_user_user_permi_user_id_permission_id_2ab516c2_uniq UNIQUE (user_id, permission_id);
ALTER TABLE ONLY public.accounts_user_user_permissions
    ADD CONSTRAINT accounts_user_user_permissions_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.api_writekey
    ADD CONSTRAINT api_writekey_pkey PRIMARY KEY (id);
ALTER TABLE public.repair_decision
    ADD CONSTRAINT approval_has_price CHECK ((((outcome)::text <> 'approved'::text) OR (price_minor IS NOT NULL))) NOT VALID;
ALTER TABLE ONLY public.fleet_lotitem
    ADD CONSTRAINT asset_once_in_lot UNIQUE (lot_id, asset_number);
ALTER TABLE ONLY public.auth_group
    ADD CONSTRAINT auth_group_name_key UNIQUE (name);
ALTER TABLE ONLY public.auth_group_permissions
    ADD CONSTRAINT auth_group_permissions_group_id_permission_id_0cd325b0_uniq UNIQUE (group_id, permission_id);
ALTER TABLE ONLY public.auth_group_permissions
    ADD CONSTRAINT auth_group_permissions_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.auth_group
    ADD CONSTRAINT auth_group_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.auth_permission
    ADD CONSTRAINT auth_permission_content_type_id_codename_01ab375a_uniq UNIQUE (content_type_id, codename);
ALTER TABLE ONLY public.auth_permission
    ADD CONSTRAINT auth_permission_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.axes_accessattempt
    ADD CONSTRAINT axes_accessattempt_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.axes_accessattempt
    ADD CONSTRAINT axes_accessattempt_username_ip_address_user_agent_8ea22282_uniq UNIQUE (username, ip_address, user_agent);
ALTER TABLE ONLY public.axes_accessattemptexpiration
    ADD CONSTRAINT axes_accessattemptexpiration_pkey PRIMARY KEY (access_attempt_id);
ALTER TABLE ONLY public.axes_accessfailurelog
    ADD CONSTRAINT axes_accessfailurelog_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.axes_accesslog
    ADD CONSTRAINT axes_accesslog_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.condition_checkanswer
    ADD CONSTRAINT bench_checkanswer_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.bench_dialtrace
    ADD CONSTRAINT bench_dialtrace_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.condition_finding
    ADD CONSTRAINT bench_finding_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.instruments_instrumentcheck
    ADD CONSTRAINT bench_instrumentcheck_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.bench_learntrim
    ADD CONSTRAINT bench_learntrim_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.bench_livelook
    ADD CONSTRAINT bench_livelook_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.bench_livepass
    ADD CONSTRAINT bench_livepass_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.bench_livepass
    ADD CONSTRAINT bench_livepass_plan_id_key UNIQUE (plan_id);
ALTER TABLE ONLY public.instruments_instrument
    ADD CONSTRAINT bench_meter_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.instruments_metertable
    ADD CONSTRAINT bench_metertable_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.bench_plan
    ADD CONSTRAINT bench_plan_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.bench_planmove
    ADD CONSTRAINT bench_planmove_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.bench_reading
    ADD CONSTRAINT bench_reading_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.bench_readingset
    ADD CONSTRAINT bench_readingset_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.bench_resumeproof
    ADD CONSTRAINT bench_resumeproof_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.bench_tracewithdrawal
    ADD CONSTRAINT bench_tracewithdrawal_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.bench_tracewithdrawal
    ADD CONSTRAINT bench_tracewithdrawal_trace_id_key UNIQUE (trace_id);
ALTER TABLE ONLY public.building_kitsheet
    ADD CONSTRAINT building_kitsheet_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.building_lacinglook
    ADD CONSTRAINT building_lacinglook_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.building_lacingprogress
    ADD CONSTRAINT building_lacingprogress_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.building_oldspoke
    ADD CONSTRAINT building_oldspoke_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.building_smallpartscount
    ADD CONSTRAINT building_smallpartscount_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.building_spokechoice
    ADD CONSTRAINT building_spokechoice_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.building_stepdone
    ADD CONSTRAINT building_stepdone_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.building_workfacts
    ADD CONSTRAINT building_workfacts_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.calendar_absence
    ADD CONSTRAINT calendar_absence_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.calendar_closedday
    ADD CONSTRAINT calendar_closedday_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.calendar_openspan
    ADD CONSTRAINT calendar_openspan_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.calendar_shift
    ADD CONSTRAINT calendar_shift_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.stock_claimed
    ADD CONSTRAINT claim_once_for_a_job UNIQUE (part_id, job_id);
ALTER TABLE ONLY public.calendar_closedday
    ADD CONSTRAINT closed_day_once UNIQUE (shop_id, day);
ALTER TABLE ONLY public.condition_conditionmark
    ADD CONSTRAINT condition_conditionmark_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.condition_ending
    ADD CONSTRAINT condition_ending_mark_id_key UNIQUE (mark_id);
ALTER TABLE ONLY public.condition_ending
    ADD CONSTRAINT condition_ending_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.condition_ending
    ADD CONSTRAINT condition_ending_spoke_break_id_key UNIQUE (spoke_break_id);
ALTER TABLE ONLY public.condition_framecheck
    ADD CONSTRAINT condition_framecheck_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.condition_spokebreak
    ADD CONSTRAINT condition_spokebreak_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.customers_bike
    ADD CONSTRAINT customers_bike_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.customers_customer
    ADD CONSTRAINT customers_customer_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.django_content_type
    ADD CONSTRAINT django_content_type_app_label_model_76bd3d3b_uniq UNIQUE (app_label, model);
ALTER TABLE ONLY public.django_content_type
    ADD CONSTRAINT django_content_type_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.django_migrations
    ADD CONSTRAINT django_migrations_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.django_session
    ADD CONSTRAINT django_session_pkey PRIMARY KEY (session_key);
ALTER TABLE ONLY public.fleet_lot
    ADD CONSTRAINT fleet_lot_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.fleet_lotitem
    ADD CONSTRAINT fleet_lotitem_job_id_key UNIQUE (job_id);
ALTER TABLE ONLY public.fleet_lotitem
    ADD CONSTRAINT fleet_lotitem_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.instruments_instrument
    ADD CONSTRAINT instrument_name_once_in_shop UNIQUE (shop_id, name);
ALTER TABLE ONLY public.queue_job
    ADD CONSTRAINT job_number_once_in_shop UNIQUE (shop_id, number);
ALTER TABLE ONLY public.links_calendarfeed
    ADD CONSTRAINT links_calendarfeed_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.links_customerlink
    ADD CONSTRAINT links_customerlink_decision_id_key UNIQUE (decision_id);
ALTER TABLE ONLY public.links_customerlink
    ADD CONSTRAINT links_customerlink_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.links_linkvisit
    ADD CONSTRAINT links_linkvisit_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.links_strangevisit
    ADD CONSTRAINT links_strangevisit_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.live_liveevent
    ADD CONSTRAINT live_liveevent_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.messages_caughtmail
    ADD CONSTRAINT messages_caughtmail_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.messages_message
    ADD CONSTRAINT messages_message_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.bench_livelook
    ADD CONSTRAINT one_live_look_per_number UNIQUE (live_pass_id, number);
ALTER TABLE ONLY public.bench_planmove
    ADD CONSTRAINT one_move_per_place UNIQUE (plan_id, place);
ALTER TABLE ONLY public.bench_planmove
    ADD CONSTRAINT one_move_per_visit UNIQUE (plan_id, spoke, visit);
ALTER TABLE ONLY public.bench_reading
    ADD CONSTRAINT one_reading_per_revision UNIQUE (reading_set_id, kind, spoke, revision);
ALTER TABLE ONLY public.api_writekey
    ADD CONSTRAINT one_write_per_key UNIQUE (user_id, key);
ALTER TABLE ONLY public.calendar_openspan
    ADD CONSTRAINT open_span_once UNIQUE (shop_id, weekday, starts);
ALTER TABLE ONLY public.stock_part
    ADD CONSTRAINT part_name_once_in_shop UNIQUE (shop_id, name);
ALTER TABLE ONLY public.wheels_pattern
    ADD CONSTRAINT pattern_name_once UNIQUE (shop_id, "position", name);
ALTER TABLE ONLY public.queue_place
    ADD CONSTRAINT place_named_once UNIQUE (shop_id, kind, name);
ALTER TABLE ONLY public.fleet_lotitem
    ADD CONSTRAINT place_once_in_lot UNIQUE (lot_id, place);
ALTER TABLE ONLY public.portable_sent
    ADD CONSTRAINT portable_sent_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.portable_taken
    ADD CONSTRAINT portable_taken_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.portable_underway
    ADD CONSTRAINT portable_underway_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.practice_practicerun
    ADD CONSTRAINT practice_practicerun_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.practice_practicetask
    ADD CONSTRAINT practice_practicetask_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.privacy_consent
    ADD CONSTRAINT privacy_consent_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.privacy_erasure
    ADD CONSTRAINT privacy_erasure_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.procrastinate_events
    ADD CONSTRAINT procrastinate_events_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.procrastinate_jobs
    ADD CONSTRAINT procrastinate_jobs_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.procrastinate_periodic_defers
    ADD CONSTRAINT procrastinate_periodic_defers_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.procrastinate_periodic_defers
    ADD CONSTRAINT procrastinate_periodic_defers_unique UNIQUE (task_name, periodic_id, defer_timestamp);
ALTER TABLE ONLY public.procrastinate_workers
    ADD CONSTRAINT procrastinate_workers_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.promises_shopplay
    ADD CONSTRAINT promises_shopplay_pkey PRIMARY KEY (shop_id);
ALTER TABLE ONLY public.queue_job
    ADD CONSTRAINT queue_job_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.queue_jobevent
    ADD CONSTRAINT queue_jobevent_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.queue_jobfind
    ADD CONSTRAINT queue_jobfind_pkey PRIMARY KEY (job_id);
ALTER TABLE ONLY public.queue_photo
    ADD CONSTRAINT queue_photo_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.queue_place
    ADD CONSTRAINT queue_place_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.queue_shoppace
    ADD CONSTRAINT queue_shoppace_pkey PRIMARY KEY (shop_id);
ALTER TABLE ONLY public.queue_shoptier
    ADD CONSTRAINT queue_shoptier_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.queue_signature
    ADD CONSTRAINT queue_signature_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.queue_stagetime
    ADD CONSTRAINT queue_stagetime_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.queue_waited
    ADD CONSTRAINT queue_waited_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.queue_workspan
    ADD CONSTRAINT queue_workspan_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.bench_readingset
    ADD CONSTRAINT reading_set_number_once UNIQUE (job_id, number);
ALTER TABLE ONLY public.records_signoff
    ADD CONSTRAINT records_signoff_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.repair_decision
    ADD CONSTRAINT repair_decision_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.repair_jobquote
    ADD CONSTRAINT repair_jobquote_job_id_key UNIQUE (job_id);
ALTER TABLE ONLY public.repair_jobquote
    ADD CONSTRAINT repair_jobquote_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.repair_payment
    ADD CONSTRAINT repair_payment_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.repair_refitanswer
    ADD CONSTRAINT repair_refitanswer_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.calendar_shift
    ADD CONSTRAINT shift_once UNIQUE (person_id, weekday, starts);
ALTER TABLE ONLY public.signing_signingkey
    ADD CONSTRAINT signing_key_public_once UNIQUE (public);
ALTER TABLE ONLY public.signing_signingkey
    ADD CONSTRAINT signing_signingkey_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.stock_balance
    ADD CONSTRAINT stock_balance_pkey PRIMARY KEY (part_id);
ALTER TABLE ONLY public.stock_claimed
    ADD CONSTRAINT stock_claimed_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.stock_movement
    ADD CONSTRAINT stock_movement_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.stock_orderline
    ADD CONSTRAINT stock_orderline_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.stock_part
    ADD CONSTRAINT stock_part_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.stock_purchaseorder
    ADD CONSTRAINT stock_purchaseorder_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.portable_taken
    ADD CONSTRAINT taken_once UNIQUE (shop_id, origin);
ALTER TABLE ONLY public.live_liveevent
    ADD CONSTRAINT told_once_a_transaction UNIQUE (xid, topic, subject);
ALTER TABLE ONLY public.trail_change
    ADD CONSTRAINT trail_change_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.upkeep_backuprun
    ADD CONSTRAINT upkeep_backuprun_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.wheels_pattern
    ADD CONSTRAINT wheels_pattern_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.wheels_wheel
    ADD CONSTRAINT wheels_wheel_pkey PRIMARY KEY (id);
CREATE INDEX accounts_pi_person__ae06ac_idx ON public.accounts_pintry USING btree (person_id, at);
CREATE INDEX accounts_pintry_person_id_019bb16f ON public.accounts_pintry USING btree (person_id);
CREATE INDEX accounts_shop_code_332b940c_like ON public.accounts_shop USING btree (code varchar_pattern_ops);
CREATE INDEX accounts_si_person__bc4a70_idx ON public.accounts_signedin USING btree (person_id, seen_at DESC);
CREATE INDEX accounts_signedin_person_id_7f270ecd ON public.accounts_signedin USING btree (person_id);
CREATE INDEX accounts_signedin_session_key_4df4e8b1_like ON public.accounts_signedin USING btree (session_key varchar_pattern_ops);
CREATE INDEX accounts_user_groups_group_id_bd11a704 ON public.accounts_user_groups USING btree (group_id);
CREATE INDEX accounts_user_groups_user_id_52b62117 ON public.accounts_user_groups USING btree (user_id);
CREATE INDEX accounts_user_shop_id_93778645 ON public.accounts_user USING btree (shop_id);
CREATE INDEX accounts_user_user_permissions_permission_id_113bb443 ON public.accounts_user_user_permissions USING btree (permission_id);
CREATE INDEX accounts_user_user_permissions_user_id_e4f0a161 ON public.accounts_user_user_permissions USING btree (user_id);
CREATE INDEX api_writekey_user_id_64e1c4f5 ON public.api_writekey USING btree (user_id);
CREATE INDEX auth_group_name_a6ea08ec_like ON public.auth_group USING btree (name varchar_pattern_ops);
CREATE INDEX auth_group_permissions_group_id_b120cbf9 ON public.auth_group_permissions USING btree (group_id);
CREATE INDEX auth_group_permissions_permission_id_84c5c92e ON public.auth_group_permissions USING btree (permission_id);
CREATE INDEX auth_permission_content_type_id_2f476e4b ON public.auth_permission USING btree (content_type_id);
CREATE INDEX axes_accessattempt_ip_address_10922d9c ON public.axes_accessattempt USING btree (ip_address);
CREATE INDEX axes_accessattempt_user_agent_ad89678b ON public.axes_accessattempt USING btree (user_agent);
CREATE INDEX axes_accessattempt_user_agent_ad89678b_like ON public.axes_accessattempt USING btree (user_agent varchar_pattern_ops);
CREATE INDEX axes_accessattempt_username_3f2d4ca0 ON public.axes_accessattempt USING btree (username);
CREATE INDEX axes_accessattempt_username_3f2d4ca0_like ON public.axes_accessattempt USING btree (username varchar_pattern_ops);
CREATE INDEX axes_accessfailurelog_ip_address_2e9f5a7f ON public.axes_accessfailurelog USING btree (ip_address);
CREATE INDEX axes_accessfailurelog_user_agent_ea145dda ON public.axes_accessfailurelog USING btree (user_agent);
CREATE INDEX axes_accessfailurelog_user_agent_ea145dda_like ON public.axes_accessfailurelog USING btree (user_agent varchar_pattern_ops);
CREATE INDEX axes_accessfailurelog_username_a8b7e8a4 ON public.axes_accessfailurelog USING btree (username);
CREATE INDEX axes_accessfailurelog_username_a8b7e8a4_like ON public.axes_accessfailurelog USING btree (username varchar_pattern_ops);
CREATE INDEX axes_accesslog_ip_address_86b417e5 ON public.axes_accesslog USING btree (ip_address);
CREATE INDEX axes_accesslog_user_agent_0e659004 ON public.axes_accesslog USING btree (user_agent);
CREATE INDEX axes_accesslog_user_agent_0e659004_like ON public.axes_accesslog USING btree (user_agent varchar_pattern_ops);
CREATE INDEX axes_accesslog_username_df93064b ON public.axes_accesslog USING btree (username);
CREATE INDEX axes_accesslog_username_df93064b_like ON public.axes_accesslog USING btree (username varchar_pattern_ops);
CREATE INDEX bench_checkanswer_created_by_id_085dfde7 ON public.condition_checkanswer USING btree (created_by_id);
CREATE INDEX bench_checkanswer_job_id_b4bbbef4 ON public.condition_checkanswer USING btree (job_id);
CREATE INDEX bench_checkanswer_shop_id_1778765e ON public.condition_checkanswer USING btree (shop_id);
CREATE INDEX bench_dialtrace_created_by_id_a07708bc ON public.bench_dialtrace USING btree (created_by_id);
CREATE INDEX bench_dialtrace_instrument_id_bca7611f ON public.bench_dialtrace USING btree (instrument_id);
CREATE INDEX bench_dialtrace_reading_set_id_0b9e8602 ON public.bench_dialtrace USING btree (reading_set_id);
CREATE INDEX bench_dialtrace_shop_id_03b797eb ON public.bench_dialtrace USING btree (shop_id);
CREATE INDEX bench_finding_created_by_id_21a7b076 ON public.condition_finding USING btree (created_by_id);
CREATE INDEX bench_finding_job_id_54141087 ON public.condition_finding USING btree (job_id);
CREATE INDEX bench_finding_shop_id_c813919b ON public.condition_finding USING btree (shop_id);
CREATE INDEX bench_instrument_changed_by_id_5af3cfda ON public.instruments_instrument USING btree (changed_by_id);
CREATE INDEX bench_instrumentcheck_created_by_id_0094addd ON public.instruments_instrumentcheck USING btree (created_by_id);
CREATE INDEX bench_instrumentcheck_instrument_id_62663942 ON public.instruments_instrumentcheck USING btree (instrument_id);
CREATE INDEX bench_instrumentcheck_shop_id_27196bd3 ON public.instruments_instrumentcheck USING btree (shop_id);
CREATE INDEX bench_instrumentcheck_table_id_53e0eabf ON public.instruments_instrumentcheck USING btree (table_id);
CREATE INDEX bench_learn_wheel_i_d92f2e_idx ON public.bench_learntrim USING btree (wheel_id, created_at);
CREATE INDEX bench_learntrim_created_by_id_1cfc638e ON public.bench_learntrim USING btree (created_by_id);
CREATE INDEX bench_learntrim_reading_set_id_1356c75f ON public.bench_learntrim USING btree (reading_set_id);
CREATE INDEX bench_learntrim_shop_id_7388ffe6 ON public.bench_learntrim USING btree (shop_id);
CREATE INDEX bench_livelook_created_by_id_ec12e956 ON public.bench_livelook USING btree (created_by_id);
CREATE INDEX bench_livelook_instrument_id_08bdb788 ON public.bench_livelook USING btree (instrument_id);
CREATE INDEX bench_livelook_meter_table_id_24d01cbb ON public.bench_livelook USING btree (meter_table_id);
CREATE INDEX bench_livelook_shop_id_b40494e9 ON public.bench_livelook USING btree (shop_id);
CREATE INDEX bench_livepass_created_by_id_9de1606e ON public.bench_livepass USING btree (created_by_id);
CREATE INDEX bench_livepass_ended_by_id_f01a4bf7 ON public.bench_livepass USING btree (ended_by_id);
CREATE INDEX bench_livepass_ended_set_id_6b15cb5e ON public.bench_livepass USING btree (ended_set_id);
CREATE INDEX bench_livepass_reading_set_id_33b11ade ON public.bench_livepass USING btree (reading_set_id);
CREATE INDEX bench_livepass_shop_id_f3226017 ON public.bench_livepass USING btree (shop_id);
CREATE INDEX bench_meter_created_by_id_b5c2a6f4 ON public.instruments_instrument USING btree (created_by_id);
CREATE INDEX bench_meter_shop_id_52f2dc98 ON public.instruments_instrument USING btree (shop_id);
CREATE INDEX bench_metertable_created_by_id_6588adc3 ON public.instruments_metertable USING btree (created_by_id);
CREATE INDEX bench_metertable_derived_from_id_8565b9cd ON public.instruments_metertable USING btree (derived_from_id);
CREATE INDEX bench_metertable_meter_id_e2761afa ON public.instruments_metertable USING btree (meter_id);
CREATE INDEX bench_metertable_shop_id_26bb8f8e ON public.instruments_metertable USING btree (shop_id);
CREATE INDEX bench_plan_created_by_id_8e83ea66 ON public.bench_plan USING btree (created_by_id);
CREATE INDEX bench_plan_learnt_id_606cafa6 ON public.bench_plan USING btree (learnt_id);
CREATE INDEX bench_plan_reading_set_id_b7c8df06 ON public.bench_plan USING btree (reading_set_id);
CREATE INDEX bench_plan_shop_id_f36db7ae ON public.bench_plan USING btree (shop_id);
CREATE INDEX bench_planmove_shop_id_dc58d9ad ON public.bench_planmove USING btree (shop_id);
CREATE INDEX bench_reading_shop_id_8064a983 ON public.bench_reading USING btree (shop_id);
CREATE INDEX bench_readingset_created_by_id_cdb24b9e ON public.bench_readingset USING btree (created_by_id);
CREATE INDEX bench_readingset_shop_id_4c5dfc93 ON public.bench_readingset USING btree (shop_id);
CREATE INDEX bench_resum_plan_id_58be90_idx ON public.bench_resumeproof USING btree (plan_id, created_at);
CREATE INDEX bench_resumeproof_created_by_id_3d3d8f86 ON public.bench_resumeproof USING btree (created_by_id);
CREATE INDEX bench_resumeproof_last_move_id_6f9e2c71 ON public.bench_resumeproof USING btree (last_move_id);
CREATE INDEX bench_resumeproof_shop_id_371f2904 ON public.bench_resumeproof USING btree (shop_id);
CREATE INDEX bench_tracewithdrawal_created_by_id_34abf045 ON public.bench_tracewithdrawal USING btree (created_by_id);
CREATE INDEX bench_tracewithdrawal_shop_id_5c7b8acd ON public.bench_tracewithdrawal USING btree (shop_id);
CREATE INDEX building_kitsheet_created_by_id_167675b5 ON public.building_kitsheet USING btree (created_by_id);
CREATE INDEX building_kitsheet_job_id_a8d5912e ON public.building_kitsheet USING btree (job_id);
CREATE INDEX building_kitsheet_shop_id_b6e58d76 ON public.building_kitsheet USING btree (shop_id);
CREATE INDEX building_la_job_id_acee29_idx ON public.building_lacingprogress USING btree (job_id, created_at);
CREATE INDEX building_lacinglook_created_by_id_11d0154a ON public.building_lacinglook USING btree (created_by_id);
CREATE INDEX building_lacinglook_job_id_81da8dfb ON public.building_lacinglook USING btree (job_id);
CREATE INDEX building_lacinglook_shop_id_0dbb11a3 ON public.building_lacinglook USING btree (shop_id);
CREATE INDEX building_lacingprogress_created_by_id_25837e80 ON public.building_lacingprogress USING btree (created_by_id);
CREATE INDEX building_lacingprogress_job_id_04476c96 ON public.building_lacingprogress USING btree (job_id);
CREATE INDEX building_lacingprogress_shop_id_c8e44fe4 ON public.building_lacingprogress USING btree (shop_id);
CREATE INDEX building_ol_job_id_dad699_idx ON public.building_oldspoke USING btree (job_id, created_at);
CREATE INDEX building_oldspoke_created_by_id_7318d2ed ON public.building_oldspoke USING btree (created_by_id);
CREATE INDEX building_oldspoke_job_id_459193d8 ON public.building_oldspoke USING btree (job_id);
CREATE INDEX building_oldspoke_shop_id_bdc4fa73 ON public.building_oldspoke USING btree (shop_id);
CREATE INDEX building_oldspoke_wheel_id_809681e4 ON public.building_oldspoke USING btree (wheel_id);
CREATE INDEX building_smallpartscount_created_by_id_c0c6af42 ON public.building_smallpartscount USING btree (created_by_id);
CREATE INDEX building_smallpartscount_job_id_e2f7caba ON public.building_smallpartscount USING btree (job_id);
CREATE INDEX building_smallpartscount_shop_id_39c43a89 ON public.building_smallpartscount USING btree (shop_id);
CREATE INDEX building_sp_job_id_095718_idx ON public.building_spokechoice USING btree (job_id, created_at);
CREATE INDEX building_spokechoice_created_by_id_cab32d03 ON public.building_spokechoice USING btree (created_by_id);
CREATE INDEX building_spokechoice_job_id_fb6a604c ON public.building_spokechoice USING btree (job_id);
CREATE INDEX building_spokechoice_part_id_637e64fb ON public.building_spokechoice USING btree (part_id);
CREATE INDEX building_spokechoice_shop_id_beef26f5 ON public.building_spokechoice USING btree (shop_id);
CREATE INDEX building_st_job_id_ae4289_idx ON public.building_stepdone USING btree (job_id, created_at);
CREATE INDEX building_stepdone_created_by_id_ae662329 ON public.building_stepdone USING btree (created_by_id);
CREATE INDEX building_stepdone_job_id_ffd4fd2d ON public.building_stepdone USING btree (job_id);
CREATE INDEX building_stepdone_shop_id_104b1cb6 ON public.building_stepdone USING btree (shop_id);
CREATE INDEX building_workfacts_created_by_id_b102f127 ON public.building_workfacts USING btree (created_by_id);
CREATE INDEX building_workfacts_job_id_a31f749d ON public.building_workfacts USING btree (job_id);
CREATE INDEX building_workfacts_shop_id_cb366b9a ON public.building_workfacts USING btree (shop_id);
CREATE INDEX calendar_ab_shop_id_7eb357_idx ON public.calendar_absence USING btree (shop_id, last_day);
CREATE INDEX calendar_absence_created_by_id_50957e67 ON public.calendar_absence USING btree (created_by_id);
CREATE INDEX calendar_absence_person_id_67e0e403 ON public.calendar_absence USING btree (person_id);
CREATE INDEX calendar_absence_shop_id_60e7d2a2 ON public.calendar_absence USING btree (shop_id);
CREATE INDEX calendar_closedday_created_by_id_50462d15 ON public.calendar_closedday USING btree (created_by_id);
CREATE INDEX calendar_closedday_shop_id_d585e2d0 ON public.calendar_closedday USING btree (shop_id);
CREATE INDEX calendar_openspan_created_by_id_2bcd203a ON public.calendar_openspan USING btree (created_by_id);
CREATE INDEX calendar_openspan_shop_id_b4c5a4c3 ON public.calendar_openspan USING btree (shop_id);
CREATE INDEX calendar_shift_created_by_id_2f96f620 ON public.calendar_shift USING btree (created_by_id);
CREATE INDEX calendar_shift_person_id_6896ee30 ON public.calendar_shift USING btree (person_id);
CREATE INDEX calendar_shift_shop_id_f0b4d12d ON public.calendar_shift USING btree (shop_id);
CREATE INDEX change_of_a_row ON public.trail_change USING btree (shop_id, topic, "row", at DESC);
CREATE INDEX condition_c_job_id_7a739a_idx ON public.condition_checkanswer USING btree (job_id, created_at);
CREATE INDEX condition_c_wheel_i_1cbdaa_idx ON public.condition_conditionmark USING btree (wheel_id, created_at);
CREATE INDEX condition_conditionmark_created_by_id_4b627b6f ON public.condition_conditionmark USING btree (created_by_id);
CREATE INDEX condition_conditionmark_job_id_693dd1b4 ON public.condition_conditionmark USING btree (job_id);
CREATE INDEX condition_conditionmark_photo_id_cd34c562 ON public.condition_conditionmark USING btree (photo_id);
CREATE INDEX condition_conditionmark_shop_id_eba0c254 ON public.condition_conditionmark USING btree (shop_id);
CREATE INDEX condition_conditionmark_wheel_id_11a8f4f8 ON public.condition_conditionmark USING btree (wheel_id);
CREATE INDEX condition_ending_created_by_id_0a0c9549 ON public.condition_ending USING btree (created_by_id);
CREATE INDEX condition_ending_job_id_9115e022 ON public.condition_ending USING btree (job_id);
CREATE INDEX condition_ending_shop_id_d9f42742 ON public.condition_ending USING btree (shop_id);
CREATE INDEX condition_framecheck_created_by_id_a1727400 ON public.condition_framecheck USING btree (created_by_id);
CREATE INDEX condition_framecheck_job_id_37d3064d ON public.condition_framecheck USING btree (job_id);
CREATE INDEX condition_framecheck_shop_id_8534e31a ON public.condition_framecheck USING btree (shop_id);
CREATE INDEX condition_s_wheel_i_02eb88_idx ON public.condition_spokebreak USING btree (wheel_id, noticed_on);
CREATE INDEX condition_spokebreak_created_by_id_ff50f168 ON public.condition_spokebreak USING btree (created_by_id);
CREATE INDEX condition_spokebreak_job_id_fb5bf239 ON public.condition_spokebreak USING btree (job_id);
CREATE INDEX condition_spokebreak_shop_id_ac88260a ON public.condition_spokebreak USING btree (shop_id);
CREATE INDEX condition_spokebreak_wheel_id_fa43dad6 ON public.condition_spokebreak USING btree (wheel_id);
CREATE INDEX customers_bike_changed_by_id_0c8dd885 ON public.customers_bike USING btree (changed_by_id);
CREATE INDEX customers_bike_created_by_id_e28c046f ON public.customers_bike USING btree (created_by_id);
CREATE INDEX customers_bike_customer_id_5aea0971 ON public.customers_bike USING btree (customer_id);
CREATE INDEX customers_bike_shop_id_6b0b0f6c ON public.customers_bike USING btree (shop_id);
CREATE INDEX customers_c_shop_id_2bfbb8_idx ON public.customers_customer USING btree (shop_id, name);
CREATE INDEX customers_customer_changed_by_id_0bb368f3 ON public.customers_customer USING btree (changed_by_id);
CREATE INDEX customers_customer_created_by_id_e3e9e010 ON public.customers_customer USING btree (created_by_id);
CREATE INDEX customers_customer_merged_into_id_2994ddb6 ON public.customers_customer USING btree (merged_into_id);
CREATE INDEX customers_customer_shop_id_4e9d8254 ON public.customers_customer USING btree (shop_id);
CREATE INDEX django_session_expire_date_a5c62663 ON public.django_session USING btree (expire_date);
CREATE INDEX django_session_session_key_c0390e0f_like ON public.django_session USING btree (session_key varchar_pattern_ops);
CREATE INDEX fleet_lot_changed_by_id_29c325fe ON public.fleet_lot USING btree (changed_by_id);
CREATE INDEX fleet_lot_created_by_id_da319041 ON public.fleet_lot USING btree (created_by_id);
CREATE INDEX fleet_lot_customer_id_8ff1dc31 ON public.fleet_lot USING btree (customer_id);
CREATE INDEX fleet_lot_shop_id_48dbf334 ON public.fleet_lot USING btree (shop_id);
CREATE INDEX fleet_lotitem_created_by_id_822c6015 ON public.fleet_lotitem USING btree (created_by_id);
CREATE INDEX fleet_lotitem_lot_id_fa251df0 ON public.fleet_lotitem USING btree (lot_id);
CREATE INDEX fleet_lotitem_shop_id_f5500a59 ON public.fleet_lotitem USING btree (shop_id);
CREATE INDEX idx_procrastinate_jobs_worker_not_null ON public.procrastinate_jobs USING btree (worker_id) WHERE ((worker_id IS NOT NULL) AND (status = 'doing'::public.procrastinate_job_status));
CREATE INDEX idx_procrastinate_workers_last_heartbeat ON public.procrastinate_workers USING btree (last_heartbeat);
CREATE INDEX instruments_instrum_9c9560_idx ON public.instruments_instrumentcheck USING btree (instrument_id, created_at);
CREATE INDEX instruments_meter_i_221916_idx ON public.instruments_metertable USING btree (meter_id, spoke_kind, created_at);
CREATE INDEX job_find_digits ON public.queue_jobfind USING gin (shop_id, digits public.gin_trgm_ops) WITH (fastupdate=off);
CREATE INDEX job_find_vector ON public.queue_jobfind USING gin (shop_id, vector) WITH (fastupdate=off);
CREATE INDEX job_find_words ON public.queue_jobfind USING gin (shop_id, words public.gin_trgm_ops) WITH (fastupdate=off);
CREATE INDEX job_shop_handed_back ON public.queue_job USING btree (shop_id, handed_back_at DESC);
CREATE INDEX links_calendarfeed_created_by_id_232b5cc1 ON public.links_calendarfeed USING btree (created_by_id);
CREATE INDEX links_calendarfeed_ended_by_id_fe40f231 ON public.links_calendarfeed USING btree (ended_by_id);
CREATE INDEX links_calendarfeed_shop_id_8c5199ea ON public.links_calendarfeed USING btree (shop_id);
CREATE INDEX links_custo_job_id_d3a5be_idx ON public.links_customerlink USING btree (job_id, created_at);
CREATE INDEX links_customerlink_created_by_id_dd3a576f ON public.links_customerlink USING btree (created_by_id);
CREATE INDEX links_customerlink_job_id_4d92ef55 ON public.links_customerlink USING btree (job_id);
CREATE INDEX links_customerlink_revoked_by_id_4b2f4669 ON public.links_customerlink USING btree (revoked_by_id);
CREATE INDEX links_customerlink_shop_id_016563ff ON public.links_customerlink USING btree (shop_id);
CREATE INDEX links_linkv_link_id_ef59c8_idx ON public.links_linkvisit USING btree (link_id, at);
CREATE INDEX links_linkvisit_link_id_ba6706eb ON public.links_linkvisit USING btree (link_id);
CREATE INDEX links_stran_whence_084933_idx ON public.links_strangevisit USING btree (whence, at);
CREATE INDEX live_liveev_at_ad9647_idx ON public.live_liveevent USING btree (at);
CREATE INDEX messages_caughtmail_shop_id_d4699fd4 ON public.messages_caughtmail USING btree (shop_id);
CREATE INDEX messages_me_job_id_da4cbd_idx ON public.messages_message USING btree (job_id);
CREATE INDEX messages_me_shop_id_6734b0_idx ON public.messages_message USING btree (shop_id, created_at DESC);
CREATE INDEX messages_message_created_by_id_5bddd8c5 ON public.messages_message USING btree (created_by_id);
CREATE INDEX messages_message_job_id_835938a6 ON public.messages_message USING btree (job_id);
CREATE INDEX messages_message_shop_id_a993c79c ON public.messages_message USING btree (shop_id);
CREATE INDEX movement_use ON public.stock_movement USING btree (part_id, created_at) INCLUDE (delta) WHERE ((kind)::text = ANY ((ARRAY['take'::character varying, 'cut'::character varying])::text[]));
CREATE UNIQUE INDEX one_calendar_feed ON public.links_calendarfeed USING btree (shop_id) WHERE (ended_at IS NULL);
CREATE UNIQUE INDEX one_live_pass_of_a_set_at_once ON public.bench_livepass USING btree (reading_set_id) WHERE (ended_at IS NULL);
CREATE UNIQUE INDEX one_person_at_a_job ON public.queue_workspan USING btree (job_id) WHERE (ended_at IS NULL);
CREATE UNIQUE INDEX one_work_at_a_time ON public.queue_workspan USING btree (person_id) WHERE (ended_at IS NULL);
CREATE INDEX order_under_way ON public.stock_purchaseorder USING btree (shop_id) WHERE ((state)::text = 'sent'::text);
CREATE INDEX portable_sent_created_by_id_b3e3f291 ON public.portable_sent USING btree (created_by_id);
CREATE INDEX portable_sent_customer_id_ae7a7107 ON public.portable_sent USING btree (customer_id);
CREATE INDEX portable_sent_shop_id_753685c5 ON public.portable_sent USING btree (shop_id);
CREATE INDEX portable_taken_created_by_id_d7373335 ON public.portable_taken USING btree (created_by_id);
CREATE INDEX portable_taken_customer_id_7df37124 ON public.portable_taken USING btree (customer_id);
CREATE INDEX portable_taken_shop_id_99de70b0 ON public.portable_taken USING btree (shop_id);
CREATE INDEX portable_taken_wheel_id_cf104b8f ON public.portable_taken USING btree (wheel_id);
CREATE UNIQUE INDEX practice_one_open_run_of_an_exercise ON public.practice_practicerun USING btree (created_by_id, exercise) WHERE (ended_at IS NULL);
CREATE INDEX practice_pr_created_dd3d0b_idx ON public.practice_practicerun USING btree (created_by_id, exercise, created_at);
CREATE INDEX practice_practicerun_created_by_id_e80a1697 ON public.practice_practicerun USING btree (created_by_id);
CREATE INDEX practice_practicerun_shop_id_f5df82cb ON public.practice_practicerun USING btree (shop_id);
CREATE INDEX practice_practicetask_created_by_id_db64b246 ON public.practice_practicetask USING btree (created_by_id);
CREATE INDEX practice_practicetask_person_id_b347a0c8 ON public.practice_practicetask USING btree (person_id);
CREATE INDEX practice_practicetask_shop_id_456580e9 ON public.practice_practicetask USING btree (shop_id);
CREATE UNIQUE INDEX practice_task_set_once ON public.practice_practicetask USING btree (person_id, exercise) WHERE (taken_back_at IS NULL);
CREATE INDEX privacy_con_custome_2fd276_idx ON public.privacy_consent USING btree (customer_id, purpose, created_at DESC);
CREATE INDEX privacy_consent_created_by_id_f34b07b9 ON public.privacy_consent USING btree (created_by_id);
CREATE INDEX privacy_consent_customer_id_fd1ad89f ON public.privacy_consent USING btree (customer_id);
CREATE INDEX privacy_consent_shop_id_b3693bea ON public.privacy_consent USING btree (shop_id);
CREATE INDEX privacy_erasure_created_by_id_3094633a ON public.privacy_erasure USING btree (created_by_id);
CREATE INDEX privacy_erasure_customer_id_1d984e68 ON public.privacy_erasure USING btree (customer_id);
CREATE INDEX privacy_erasure_shop_id_6029e964 ON public.privacy_erasure USING btree (shop_id);
CREATE INDEX procrastinate_events_job_id_fkey_v1 ON public.procrastinate_events USING btree (job_id);
CREATE INDEX procrastinate_jobs_id_lock_idx_v1 ON public.procrastinate_jobs USING btree (id, lock) WHERE (status = ANY (ARRAY['todo'::public.procrastinate_job_status, 'doing'::public.procrastinate_job_status]));
CREATE UNIQUE INDEX procrastinate_jobs_lock_idx_v1 ON public.procrastinate_jobs USING btree (lock) WHERE (status = 'doing'::public.procrastinate_job_status);
CREATE INDEX procrastinate_jobs_priority_idx_v1 ON public.procrastinate_jobs USING btree (priority DESC, id) WHERE (status = 'todo'::public.procrastinate_job_status);
CREATE INDEX procrastinate_jobs_queue_name_idx_v1 ON public.procrastinate_jobs USING btree (queue_name);
CREATE UNIQUE INDEX procrastinate_jobs_queueing_lock_idx_v1 ON public.procrastinate_jobs USING btree (queueing_lock) WHERE (status = 'todo'::public.procrastinate_job_status);
CREATE INDEX procrastinate_periodic_defers_job_id_fkey_v1 ON public.procrastinate_periodic_defers USING btree (job_id);
CREATE INDEX queue_job_assigned_to_id_22c0ef5e ON public.queue_job USING btree (assigned_to_id);
CREATE INDEX queue_job_changed_by_id_9dbd6200 ON public.queue_job USING btree (changed_by_id);
CREATE INDEX queue_job_created_by_id_cfe249c6 ON public.queue_job USING btree (created_by_id);
CREATE INDEX queue_job_hook_id_55f43645 ON public.queue_job USING btree (hook_id);
CREATE INDEX queue_job_shop_id_89ff96_idx ON public.queue_job USING btree (shop_id, stage, promised_at);
CREATE INDEX queue_job_shop_id_a6a49dad ON public.queue_job USING btree (shop_id);
CREATE INDEX queue_job_wheel_id_475eae32 ON public.queue_job USING btree (wheel_id);
CREATE INDEX queue_jobev_job_id_91facc_idx ON public.queue_jobevent USING btree (job_id, created_at);
CREATE INDEX queue_jobevent_shop_id_e540eae9 ON public.queue_jobevent USING btree (shop_id);
CREATE INDEX queue_jobfind_shop_id_e739ab3d ON public.queue_jobfind USING btree (shop_id);
CREATE INDEX queue_photo_created_by_id_99f57a83 ON public.queue_photo USING btree (created_by_id);
CREATE INDEX queue_photo_job_id_a500e448 ON public.queue_photo USING btree (job_id);
CREATE INDEX queue_photo_shop_id_15771547 ON public.queue_photo USING btree (shop_id);
CREATE INDEX queue_place_changed_by_id_b7f9eb1f ON public.queue_place USING btree (changed_by_id);
CREATE INDEX queue_place_created_by_id_13cb44b3 ON public.queue_place USING btree (created_by_id);
CREATE INDEX queue_place_shop_id_3e147712 ON public.queue_place USING btree (shop_id);
CREATE INDEX queue_shoptier_changed_by_id_3bda5d7d ON public.queue_shoptier USING btree (changed_by_id);
CREATE INDEX queue_shoptier_created_by_id_ffb523f5 ON public.queue_shoptier USING btree (created_by_id);
CREATE INDEX queue_shoptier_shop_id_eed85d8b ON public.queue_shoptier USING btree (shop_id);
CREATE INDEX queue_signature_created_by_id_c6702760 ON public.queue_signature USING btree (created_by_id);
CREATE INDEX queue_signature_job_id_24f1c714 ON public.queue_signature USING btree (job_id);
CREATE INDEX queue_signature_shop_id_a07bf2c8 ON public.queue_signature USING btree (shop_id);
CREATE INDEX queue_stage_shop_id_1c2add_idx ON public.queue_stagetime USING btree (shop_id, created_at DESC);
CREATE INDEX queue_stagetime_created_by_id_1160c8c1 ON public.queue_stagetime USING btree (created_by_id);
CREATE INDEX queue_stagetime_job_id_e51b5a48 ON public.queue_stagetime USING btree (job_id);
CREATE INDEX queue_stagetime_shop_id_4c7f4762 ON public.queue_stagetime USING btree (shop_id);
CREATE INDEX queue_waite_shop_id_f6dd09_idx ON public.queue_waited USING btree (shop_id, since DESC);
CREATE INDEX queue_waited_created_by_id_392e061d ON public.queue_waited USING btree (created_by_id);
CREATE INDEX queue_waited_job_id_4502a9f2 ON public.queue_waited USING btree (job_id);
CREATE INDEX queue_waited_shop_id_2d7757a5 ON public.queue_waited USING btree (shop_id);
CREATE INDEX queue_works_job_id_dd0505_idx ON public.queue_workspan USING btree (job_id, stage);
CREATE INDEX queue_workspan_created_by_id_2880f356 ON public.queue_workspan USING btree (created_by_id);
CREATE INDEX queue_workspan_ended_by_id_f3fdd787 ON public.queue_workspan USING btree (ended_by_id);
CREATE INDEX queue_workspan_job_id_8137772b ON public.queue_workspan USING btree (job_id);
CREATE INDEX queue_workspan_person_id_96543853 ON public.queue_workspan USING btree (person_id);
CREATE INDEX queue_workspan_shop_id_4226fdbe ON public.queue_workspan USING btree (shop_id);
CREATE INDEX queue_workspan_stand_id_0908ab03 ON public.queue_workspan USING btree (stand_id);
CREATE INDEX records_signoff_as_found_id_82b395f9 ON public.records_signoff USING btree (as_found_id);
CREATE INDEX records_signoff_as_left_id_91951030 ON public.records_signoff USING btree (as_left_id);
CREATE INDEX records_signoff_created_by_id_7551c4ba ON public.records_signoff USING btree (created_by_id);
CREATE INDEX records_signoff_job_id_0a7828ac ON public.records_signoff USING btree (job_id);
CREATE INDEX records_signoff_shop_id_6ca7fd3e ON public.records_signoff USING btree (shop_id);
CREATE INDEX repair_decision_created_by_id_1c3d77bc ON public.repair_decision USING btree (created_by_id);
CREATE INDEX repair_decision_job_id_f0209594 ON public.repair_decision USING btree (job_id);
CREATE INDEX repair_decision_shop_id_77da8c0e ON public.repair_decision USING btree (shop_id);
CREATE INDEX repair_jobquote_changed_by_id_f1eb27ea ON public.repair_jobquote USING btree (changed_by_id);
CREATE INDEX repair_jobquote_created_by_id_77a1f419 ON public.repair_jobquote USING btree (created_by_id);
CREATE INDEX repair_jobquote_shop_id_4ce8e00a ON public.repair_jobquote USING btree (shop_id);
CREATE INDEX repair_payment_created_by_id_3c65e9fb ON public.repair_payment USING btree (created_by_id);
CREATE INDEX repair_payment_job_id_d58f01cf ON public.repair_payment USING btree (job_id);
CREATE INDEX repair_payment_shop_id_896da705 ON public.repair_payment USING btree (shop_id);
CREATE INDEX repair_refi_job_id_00c0d4_idx ON public.repair_refitanswer USING btree (job_id, created_at);
CREATE INDEX repair_refitanswer_created_by_id_16c56898 ON public.repair_refitanswer USING btree (created_by_id);
CREATE INDEX repair_refitanswer_job_id_b930fc47 ON public.repair_refitanswer USING btree (job_id);
CREATE INDEX repair_refitanswer_shop_id_bb329205 ON public.repair_refitanswer USING btree (shop_id);
CREATE UNIQUE INDEX signing_key_one_in_use ON public.signing_signingkey USING btree (shop_id) WHERE (ended_at IS NULL);
CREATE INDEX signing_signingkey_created_by_id_fa5e1d32 ON public.signing_signingkey USING btree (created_by_id);
CREATE INDEX signing_signingkey_ended_by_id_39d191dc ON public.signing_signingkey USING btree (ended_by_id);
CREATE INDEX signing_signingkey_shop_id_102f688f ON public.signing_signingkey USING btree (shop_id);
CREATE INDEX signing_signingkey_vouched_by_id_da3760ff ON public.signing_signingkey USING btree (vouched_by_id);
CREATE INDEX stock_balance_shop_id_89c6cf9a ON public.stock_balance USING btree (shop_id);
CREATE INDEX stock_claimed_job_id_7cc20438 ON public.stock_claimed USING btree (job_id);
CREATE INDEX stock_claimed_shop_id_24dfc4f7 ON public.stock_claimed USING btree (shop_id);
CREATE INDEX stock_movem_job_id_9fd5ad_idx ON public.stock_movement USING btree (job_id);
CREATE INDEX stock_movem_part_id_5bba8f_idx ON public.stock_movement USING btree (part_id, created_at);
CREATE INDEX stock_movement_created_by_id_4d0216fc ON public.stock_movement USING btree (created_by_id);
CREATE INDEX stock_movement_job_id_44556ea7 ON public.stock_movement USING btree (job_id);
CREATE INDEX stock_movement_order_line_id_6e027135 ON public.stock_movement USING btree (order_line_id);
CREATE INDEX stock_movement_shop_id_8b8a7210 ON public.stock_movement USING btree (shop_id);
CREATE INDEX stock_orderline_created_by_id_f3a87c67 ON public.stock_orderline USING btree (created_by_id);
CREATE INDEX stock_orderline_order_id_72263c75 ON public.stock_orderline USING btree (order_id);
CREATE INDEX stock_orderline_part_id_fa0a3dd5 ON public.stock_orderline USING btree (part_id);
CREATE INDEX stock_orderline_shop_id_c12ff75d ON public.stock_orderline USING btree (shop_id);
CREATE INDEX stock_part_changed_by_id_1aeb5688 ON public.stock_part USING btree (changed_by_id);
CREATE INDEX stock_part_created_by_id_ad65e4ff ON public.stock_part USING btree (created_by_id);
CREATE INDEX stock_part_shop_id_09c16e8f ON public.stock_part USING btree (shop_id);
CREATE INDEX stock_purchaseorder_changed_by_id_87ac831b ON public.stock_purchaseorder USING btree (changed_by_id);
CREATE INDEX stock_purchaseorder_created_by_id_56421af7 ON public.stock_purchaseorder USING btree (created_by_id);
CREATE INDEX stock_purchaseorder_shop_id_8e194e69 ON public.stock_purchaseorder USING btree (shop_id);
CREATE UNIQUE INDEX tier_named_once ON public.queue_shoptier USING btree (shop_id, lower((name)::text));
CREATE INDEX upkeep_back_at_b140d8_idx ON public.upkeep_backuprun USING btree (at DESC);
CREATE UNIQUE INDEX user_name_once_in_shop ON public.accounts_user USING btree (lower((username)::text), shop_id);
CREATE UNIQUE INDEX waits_for_one_at_a_time ON public.queue_waited USING btree (job_id) WHERE (until IS NULL);
CREATE INDEX wheels_pattern_changed_by_id_e27fedf7 ON public.wheels_pattern USING btree (changed_by_id);
CREATE INDEX wheels_pattern_created_by_id_df7d1db7 ON public.wheels_pattern USING btree (created_by_id);
CREATE INDEX wheels_pattern_shop_id_757abe92 ON public.wheels_pattern USING btree (shop_id);
CREATE INDEX wheels_wheel_bike_id_adde9376 ON public.wheels_wheel USING btree (bike_id);
CREATE INDEX wheels_wheel_changed_by_id_ec76a864 ON public.wheels_wheel USING btree (changed_by_id);
CREATE INDEX wheels_wheel_created_by_id_dda35ab1 ON public.wheels_wheel USING btree (created_by_id);
CREATE INDEX wheels_wheel_shop_id_4c956add ON public.wheels_wheel USING btree (shop_id);
CREATE TRIGGER accounts_shop_trail AFTER INSERT OR DELETE OR UPDATE ON public.accounts_shop FOR EACH ROW WHEN ((current_setting('felloe.erasing'::text, true) IS DISTINCT FROM 'on'::text)) EXECUTE FUNCTION public.felloe_trail('shop');
CREATE TRIGGER accounts_user_trail AFTER INSERT OR DELETE OR UPDATE ON public.accounts_user FOR EACH ROW WHEN ((current_setting('felloe.erasing'::text, true) IS DISTINCT FROM 'on'::text)) EXECUTE FUNCTION public.felloe_trail('person');
CREATE TRIGGER bench_checkanswer_append_only BEFORE DELETE OR UPDATE ON public.condition_checkanswer FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER bench_dialtrace_append_only BEFORE DELETE OR UPDATE ON public.bench_dialtrace FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER bench_finding_append_only BEFORE DELETE OR UPDATE ON public.condition_finding FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER bench_instrumentcheck_append_only BEFORE DELETE OR UPDATE ON public.instruments_instrumentcheck FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER bench_learntrim_append_only BEFORE DELETE OR UPDATE ON public.bench_learntrim FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER bench_livelook_append_only BEFORE DELETE OR UPDATE ON public.bench_livelook FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER bench_metertable_append_only BEFORE DELETE OR UPDATE ON public.instruments_metertable FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER bench_resumeproof_append_only BEFORE DELETE OR UPDATE ON public.bench_resumeproof FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER bench_tracewithdrawal_append_only BEFORE DELETE OR UPDATE ON public.bench_tracewithdrawal FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER building_kitsheet_append_only BEFORE DELETE OR UPDATE ON public.building_kitsheet FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER building_lacinglook_append_only BEFORE DELETE OR UPDATE ON public.building_lacinglook FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER building_lacingprogress_append_only BEFORE DELETE OR UPDATE ON public.building_lacingprogress FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER building_oldspoke_append_only BEFORE DELETE OR UPDATE ON public.building_oldspoke FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER building_smallpartscount_append_only BEFORE DELETE OR UPDATE ON public.building_smallpartscount FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER building_spokechoice_append_only BEFORE DELETE OR UPDATE ON public.building_spokechoice FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER building_stepdone_append_only BEFORE DELETE OR UPDATE ON public.building_stepdone FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER building_workfacts_append_only BEFORE DELETE OR UPDATE ON public.building_workfacts FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER calendar_absence_trail AFTER INSERT OR DELETE OR UPDATE ON public.calendar_absence FOR EACH ROW WHEN ((current_setting('felloe.erasing'::text, true) IS DISTINCT FROM 'on'::text)) EXECUTE FUNCTION public.felloe_trail('absence');
CREATE TRIGGER calendar_closedday_trail AFTER INSERT OR DELETE OR UPDATE ON public.calendar_closedday FOR EACH ROW WHEN ((current_setting('felloe.erasing'::text, true) IS DISTINCT FROM 'on'::text)) EXECUTE FUNCTION public.felloe_trail('closed');
CREATE TRIGGER calendar_openspan_trail AFTER INSERT OR DELETE OR UPDATE ON public.calendar_openspan FOR EACH ROW WHEN ((current_setting('felloe.erasing'::text, true) IS DISTINCT FROM 'on'::text)) EXECUTE FUNCTION public.felloe_trail('open');
CREATE TRIGGER calendar_shift_trail AFTER INSERT OR DELETE OR UPDATE ON public.calendar_shift FOR EACH ROW WHEN ((current_setting('felloe.erasing'::text, true) IS DISTINCT FROM 'on'::text)) EXECUTE FUNCTION public.felloe_trail('shift');
CREATE TRIGGER condition_conditionmark_append_only BEFORE DELETE OR UPDATE ON public.condition_conditionmark FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER condition_ending_append_only BEFORE DELETE OR UPDATE ON public.condition_ending FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER condition_framecheck_append_only BEFORE DELETE OR UPDATE ON public.condition_framecheck FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER condition_spokebreak_append_only BEFORE DELETE OR UPDATE ON public.condition_spokebreak FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER customers_bike_trail AFTER INSERT OR DELETE OR UPDATE ON public.customers_bike FOR EACH ROW WHEN ((current_setting('felloe.erasing'::text, true) IS DISTINCT FROM 'on'::text)) EXECUTE FUNCTION public.felloe_trail('bike');
CREATE TRIGGER customers_customer_trail AFTER INSERT OR DELETE OR UPDATE ON public.customers_customer FOR EACH ROW WHEN ((current_setting('felloe.erasing'::text, true) IS DISTINCT FROM 'on'::text)) EXECUTE FUNCTION public.felloe_trail('customer');
CREATE TRIGGER instruments_instrument_trail AFTER INSERT OR DELETE OR UPDATE ON public.instruments_instrument FOR EACH ROW WHEN ((current_setting('felloe.erasing'::text, true) IS DISTINCT FROM 'on'::text)) EXECUTE FUNCTION public.felloe_trail('instrument');
CREATE TRIGGER job_event_append_only BEFORE DELETE OR UPDATE ON public.queue_jobevent FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.bench_dialtrace FOR EACH ROW EXECUTE FUNCTION public.felloe_live('set', 'reading_set_id', 'set');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.bench_livelook FOR EACH ROW EXECUTE FUNCTION public.felloe_live('look', 'live_pass_id', 'pass');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.bench_livepass FOR EACH ROW EXECUTE FUNCTION public.felloe_live('set', 'reading_set_id', 'set');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.bench_plan FOR EACH ROW EXECUTE FUNCTION public.felloe_live('set', 'reading_set_id', 'set');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.bench_reading FOR EACH ROW EXECUTE FUNCTION public.felloe_live('set', 'reading_set_id', 'set');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE OF job_id, stage, number ON public.bench_readingset FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.building_kitsheet FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.building_lacinglook FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.building_lacingprogress FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.building_oldspoke FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.building_smallpartscount FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.building_spokechoice FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.building_stepdone FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.building_workfacts FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.calendar_absence FOR EACH ROW EXECUTE FUNCTION public.felloe_live('shop', 'shop_id', '');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.calendar_closedday FOR EACH ROW EXECUTE FUNCTION public.felloe_live('shop', 'shop_id', '');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.calendar_openspan FOR EACH ROW EXECUTE FUNCTION public.felloe_live('shop', 'shop_id', '');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.calendar_shift FOR EACH ROW EXECUTE FUNCTION public.felloe_live('shop', 'shop_id', '');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.condition_checkanswer FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.condition_conditionmark FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.condition_ending FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.condition_finding FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.condition_framecheck FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.condition_spokebreak FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.customers_bike FOR EACH ROW EXECUTE FUNCTION public.felloe_live('customer', 'customer_id', '');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.customers_customer FOR EACH ROW EXECUTE FUNCTION public.felloe_live('customer', 'id', '');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.instruments_instrument FOR EACH ROW EXECUTE FUNCTION public.felloe_live('instruments', 'id', '');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.instruments_instrumentcheck FOR EACH ROW EXECUTE FUNCTION public.felloe_live('instruments', 'instrument_id', '');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.instruments_metertable FOR EACH ROW EXECUTE FUNCTION public.felloe_live('instruments', 'meter_id', '');
CREATE TRIGGER live AFTER INSERT OR UPDATE OF played_at ON public.promises_shopplay FOR EACH ROW EXECUTE FUNCTION public.felloe_live('rail', 'shop_id', '');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.queue_job FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.queue_jobevent FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.queue_photo FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.queue_place FOR EACH ROW EXECUTE FUNCTION public.felloe_live('places', 'id', '');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.queue_shoptier FOR EACH ROW EXECUTE FUNCTION public.felloe_live('tiers', 'id', '');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.queue_signature FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.queue_workspan FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.records_signoff FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.repair_decision FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.repair_refitanswer FOR EACH ROW EXECUTE FUNCTION public.felloe_live('job', 'job_id', 'job');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.stock_movement FOR EACH ROW EXECUTE FUNCTION public.felloe_live('stock', 'shop_id', '');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.stock_part FOR EACH ROW EXECUTE FUNCTION public.felloe_live('stock', 'shop_id', '');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.stock_purchaseorder FOR EACH ROW EXECUTE FUNCTION public.felloe_live('stock', 'shop_id', '');
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE ON public.wheels_wheel FOR EACH ROW EXECUTE FUNCTION public.felloe_live('wheel', 'id', '');
CREATE TRIGGER live_move AFTER UPDATE ON public.bench_planmove FOR EACH ROW EXECUTE FUNCTION public.felloe_live_move();
CREATE TRIGGER live_move_made AFTER INSERT ON public.bench_planmove FOR EACH ROW WHEN (((new.state)::text <> 'todo'::text)) EXECUTE FUNCTION public.felloe_live_move();
CREATE TRIGGER live_shop AFTER UPDATE ON public.accounts_shop FOR EACH ROW EXECUTE FUNCTION public.felloe_live_shop();
CREATE TRIGGER live_staff AFTER INSERT OR UPDATE OF role, first_name, last_name, is_active, skills ON public.accounts_user FOR EACH ROW EXECUTE FUNCTION public.felloe_live_staff();
CREATE TRIGGER privacy_consent_append_only BEFORE DELETE OR UPDATE ON public.privacy_consent FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER privacy_erasure_append_only BEFORE DELETE OR UPDATE ON public.privacy_erasure FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER procrastinate_jobs_notify_queue_job_aborted_v1 AFTER UPDATE OF abort_requested ON public.procrastinate_jobs FOR EACH ROW WHEN (((old.abort_requested = false) AND (new.abort_requested = true) AND (new.status = 'doing'::public.procrastinate_job_status))) EXECUTE FUNCTION public.procrastinate_notify_queue_abort_job_v1();
CREATE TRIGGER procrastinate_jobs_notify_queue_job_inserted_v1 AFTER INSERT ON public.procrastinate_jobs FOR EACH ROW WHEN ((new.status = 'todo'::public.procrastinate_job_status)) EXECUTE FUNCTION public.procrastinate_notify_queue_job_inserted_v1();
CREATE TRIGGER procrastinate_trigger_abort_requested_events_v1 AFTER UPDATE OF abort_requested ON public.procrastinate_jobs FOR EACH ROW WHEN ((new.abort_requested = true)) EXECUTE FUNCTION public.procrastinate_trigger_abort_requested_events_procedure_v1();
CREATE TRIGGER procrastinate_trigger_delete_jobs_v1 BEFORE DELETE ON public.procrastinate_jobs FOR EACH ROW EXECUTE FUNCTION public.procrastinate_unlink_periodic_defers_v1();
CREATE TRIGGER procrastinate_trigger_scheduled_events_v1 AFTER INSERT OR UPDATE ON public.procrastinate_jobs FOR EACH ROW WHEN (((new.scheduled_at IS NOT NULL) AND (new.status = 'todo'::public.procrastinate_job_status))) EXECUTE FUNCTION public.procrastinate_trigger_function_scheduled_events_v1();
CREATE TRIGGER procrastinate_trigger_status_events_insert_v1 AFTER INSERT ON public.procrastinate_jobs FOR EACH ROW WHEN ((new.status = 'todo'::public.procrastinate_job_status)) EXECUTE FUNCTION public.procrastinate_trigger_function_status_events_insert_v1();
CREATE TRIGGER procrastinate_trigger_status_events_update_v1 AFTER UPDATE OF status ON public.procrastinate_jobs FOR EACH ROW EXECUTE FUNCTION public.procrastinate_trigger_function_status_events_update_v1();
CREATE TRIGGER queue_jobfind_bike AFTER UPDATE OF label, asset_number, customer_id ON public.customers_bike FOR EACH ROW EXECUTE FUNCTION public.queue_jobfind_of_bike();
CREATE TRIGGER queue_jobfind_customer AFTER UPDATE OF name, phone, email ON public.customers_customer FOR EACH ROW EXECUTE FUNCTION public.queue_jobfind_of_customer();
CREATE TRIGGER queue_jobfind_job AFTER INSERT OR UPDATE OF number, complaint, wheel_id ON public.queue_job FOR EACH ROW EXECUTE FUNCTION public.queue_jobfind_of_job();
CREATE TRIGGER queue_jobfind_wheel AFTER UPDATE OF asset_number, "position", bike_id ON public.wheels_wheel FOR EACH ROW EXECUTE FUNCTION public.queue_jobfind_of_wheel();
CREATE TRIGGER queue_photo_append_only BEFORE DELETE OR UPDATE ON public.queue_photo FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER queue_place_trail AFTER INSERT OR DELETE OR UPDATE ON public.queue_place FOR EACH ROW WHEN ((current_setting('felloe.erasing'::text, true) IS DISTINCT FROM 'on'::text)) EXECUTE FUNCTION public.felloe_trail('place');
CREATE TRIGGER queue_shoptier_trail AFTER INSERT OR DELETE OR UPDATE ON public.queue_shoptier FOR EACH ROW WHEN ((current_setting('felloe.erasing'::text, true) IS DISTINCT FROM 'on'::text)) EXECUTE FUNCTION public.felloe_trail('tier');
CREATE TRIGGER queue_signature_append_only BEFORE DELETE OR UPDATE ON public.queue_signature FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER reading_append_only BEFORE DELETE OR UPDATE ON public.bench_reading FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER repair_decision_append_only BEFORE DELETE OR UPDATE ON public.repair_decision FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER repair_refitanswer_append_only BEFORE DELETE OR UPDATE ON public.repair_refitanswer FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER signing_key_kept BEFORE DELETE OR UPDATE ON public.signing_signingkey FOR EACH ROW EXECUTE FUNCTION public.signing_key_kept();
CREATE TRIGGER stock_balance_of_the_ledger BEFORE INSERT OR DELETE OR UPDATE ON public.stock_balance FOR EACH ROW EXECUTE FUNCTION public.felloe_only_the_ledger();
CREATE TRIGGER stock_claimed_of_the_ledger BEFORE INSERT OR DELETE OR UPDATE ON public.stock_claimed FOR EACH ROW EXECUTE FUNCTION public.felloe_only_the_ledger();
CREATE TRIGGER stock_movement_append_only BEFORE DELETE OR UPDATE ON public.stock_movement FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER stock_movement_balance AFTER INSERT ON public.stock_movement REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION public.felloe_stock_balance();
CREATE TRIGGER stock_orderline_append_only BEFORE DELETE OR UPDATE ON public.stock_orderline FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER stock_part_trail AFTER INSERT OR DELETE OR UPDATE ON public.stock_part FOR EACH ROW WHEN ((current_setting('felloe.erasing'::text, true) IS DISTINCT FROM 'on'::text)) EXECUTE FUNCTION public.felloe_trail('part');
CREATE TRIGGER trail_change_append_only BEFORE DELETE OR UPDATE ON public.trail_change FOR EACH ROW EXECUTE FUNCTION public.felloe_refuse_change();
CREATE TRIGGER wheels_wheel_trail AFTER INSERT OR DELETE OR UPDATE ON public.wheels_wheel FOR EACH ROW WHEN ((current_setting('felloe.erasing'::text, true) IS DISTINCT FROM 'on'::text)) EXECUTE FUNCTION public.felloe_trail('wheel');
ALTER TABLE ONLY public.accounts_passwordletter
    ADD CONSTRAINT accounts_passwordletter_person_id_0b6a5f81_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.accounts_pintry
    ADD CONSTRAINT accounts_pintry_person_id_019bb16f_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.accounts_secondfactor
    ADD CONSTRAINT accounts_secondfactor_person_id_44cc06cf_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.accounts_signedin
    ADD CONSTRAINT accounts_signedin_person_id_7f270ecd_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.accounts_user_groups
    ADD CONSTRAINT accounts_user_groups_group_id_bd11a704_fk_auth_group_id FOREIGN KEY (group_id) REFERENCES public.auth_group(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.accounts_user_groups
    ADD CONSTRAINT accounts_user_groups_user_id_52b62117_fk_accounts_user_id FOREIGN KEY (user_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.accounts_user
    ADD CONSTRAINT accounts_user_shop_id_93778645_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.accounts_user_user_permissions
    ADD CONSTRAINT accounts_user_user_p_permission_id_113bb443_fk_auth_perm FOREIGN KEY (permission_id) REFERENCES public.auth_permission(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.accounts_user_user_permissions
    ADD CONSTRAINT accounts_user_user_p_user_id_e4f0a161_fk_accounts_ FOREIGN KEY (user_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.api_writekey
    ADD CONSTRAINT api_writekey_user_id_64e1c4f5_fk_accounts_user_id FOREIGN KEY (user_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.auth_group_permissions
    ADD CONSTRAINT auth_group_permissio_permission_id_84c5c92e_fk_auth_perm FOREIGN KEY (permission_id) REFERENCES public.auth_permission(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.auth_group_permissions
    ADD CONSTRAINT auth_group_permissions_group_id_b120cbf9_fk_auth_group_id FOREIGN KEY (group_id) REFERENCES public.auth_group(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.auth_permission
    ADD CONSTRAINT auth_permission_content_type_id_2f476e4b_fk_django_co FOREIGN KEY (content_type_id) REFERENCES public.django_content_type(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.axes_accessattemptexpiration
    ADD CONSTRAINT axes_accessattemptex_access_attempt_id_6b73a47a_fk_axes_acce FOREIGN KEY (access_attempt_id) REFERENCES public.axes_accessattempt(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_checkanswer
    ADD CONSTRAINT bench_checkanswer_created_by_id_085dfde7_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_checkanswer
    ADD CONSTRAINT bench_checkanswer_job_id_b4bbbef4_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_checkanswer
    ADD CONSTRAINT bench_checkanswer_shop_id_1778765e_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_dialtrace
    ADD CONSTRAINT bench_dialtrace_created_by_id_a07708bc_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_dialtrace
    ADD CONSTRAINT bench_dialtrace_instrument_id_bca7611f_fk_bench_instrument_id FOREIGN KEY (instrument_id) REFERENCES public.instruments_instrument(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_dialtrace
    ADD CONSTRAINT bench_dialtrace_reading_set_id_0b9e8602_fk_bench_readingset_id FOREIGN KEY (reading_set_id) REFERENCES public.bench_readingset(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_dialtrace
    ADD CONSTRAINT bench_dialtrace_shop_id_03b797eb_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_finding
    ADD CONSTRAINT bench_finding_created_by_id_21a7b076_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_finding
    ADD CONSTRAINT bench_finding_job_id_54141087_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_finding
    ADD CONSTRAINT bench_finding_shop_id_c813919b_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.instruments_instrument
    ADD CONSTRAINT bench_instrument_changed_by_id_5af3cfda_fk_accounts_user_id FOREIGN KEY (changed_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.instruments_instrumentcheck
    ADD CONSTRAINT bench_instrumentchec_created_by_id_0094addd_fk_accounts_ FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.instruments_instrumentcheck
    ADD CONSTRAINT bench_instrumentchec_instrument_id_62663942_fk_bench_ins FOREIGN KEY (instrument_id) REFERENCES public.instruments_instrument(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.instruments_instrumentcheck
    ADD CONSTRAINT bench_instrumentcheck_shop_id_27196bd3_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.instruments_instrumentcheck
    ADD CONSTRAINT bench_instrumentcheck_table_id_53e0eabf_fk_bench_metertable_id FOREIGN KEY (table_id) REFERENCES public.instruments_metertable(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_learntrim
    ADD CONSTRAINT bench_learntrim_created_by_id_1cfc638e_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_learntrim
    ADD CONSTRAINT bench_learntrim_reading_set_id_1356c75f_fk_bench_readingset_id FOREIGN KEY (reading_set_id) REFERENCES public.bench_readingset(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_learntrim
    ADD CONSTRAINT bench_learntrim_shop_id_7388ffe6_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_learntrim
    ADD CONSTRAINT bench_learntrim_wheel_id_3388fdd5_fk_wheels_wheel_id FOREIGN KEY (wheel_id) REFERENCES public.wheels_wheel(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_livelook
    ADD CONSTRAINT bench_livelook_created_by_id_ec12e956_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_livelook
    ADD CONSTRAINT bench_livelook_instrument_id_08bdb788_fk_instrumen FOREIGN KEY (instrument_id) REFERENCES public.instruments_instrument(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_livelook
    ADD CONSTRAINT bench_livelook_live_pass_id_3319ca25_fk_bench_livepass_id FOREIGN KEY (live_pass_id) REFERENCES public.bench_livepass(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_livelook
    ADD CONSTRAINT bench_livelook_meter_table_id_24d01cbb_fk_instrumen FOREIGN KEY (meter_table_id) REFERENCES public.instruments_metertable(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_livelook
    ADD CONSTRAINT bench_livelook_shop_id_b40494e9_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_livepass
    ADD CONSTRAINT bench_livepass_created_by_id_9de1606e_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_livepass
    ADD CONSTRAINT bench_livepass_ended_by_id_f01a4bf7_fk_accounts_user_id FOREIGN KEY (ended_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_livepass
    ADD CONSTRAINT bench_livepass_ended_set_id_6b15cb5e_fk_bench_readingset_id FOREIGN KEY (ended_set_id) REFERENCES public.bench_readingset(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_livepass
    ADD CONSTRAINT bench_livepass_plan_id_a740580d_fk_bench_plan_id FOREIGN KEY (plan_id) REFERENCES public.bench_plan(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_livepass
    ADD CONSTRAINT bench_livepass_reading_set_id_33b11ade_fk_bench_readingset_id FOREIGN KEY (reading_set_id) REFERENCES public.bench_readingset(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_livepass
    ADD CONSTRAINT bench_livepass_shop_id_f3226017_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.instruments_instrument
    ADD CONSTRAINT bench_meter_created_by_id_b5c2a6f4_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.instruments_instrument
    ADD CONSTRAINT bench_meter_shop_id_52f2dc98_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.instruments_metertable
    ADD CONSTRAINT bench_metertable_created_by_id_6588adc3_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.instruments_metertable
    ADD CONSTRAINT bench_metertable_derived_from_id_8565b9cd_fk_bench_met FOREIGN KEY (derived_from_id) REFERENCES public.instruments_metertable(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.instruments_metertable
    ADD CONSTRAINT bench_metertable_meter_id_e2761afa_fk_bench_instrument_id FOREIGN KEY (meter_id) REFERENCES public.instruments_instrument(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.instruments_metertable
    ADD CONSTRAINT bench_metertable_shop_id_26bb8f8e_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_plan
    ADD CONSTRAINT bench_plan_created_by_id_8e83ea66_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_plan
    ADD CONSTRAINT bench_plan_learnt_id_606cafa6_fk_bench_learntrim_id FOREIGN KEY (learnt_id) REFERENCES public.bench_learntrim(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_plan
    ADD CONSTRAINT bench_plan_reading_set_id_b7c8df06_fk_bench_readingset_id FOREIGN KEY (reading_set_id) REFERENCES public.bench_readingset(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_plan
    ADD CONSTRAINT bench_plan_shop_id_f36db7ae_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_planmove
    ADD CONSTRAINT bench_planmove_created_by_id_82e654c0_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_planmove
    ADD CONSTRAINT bench_planmove_done_by_id_e78291ca_fk_accounts_user_id FOREIGN KEY (done_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_planmove
    ADD CONSTRAINT bench_planmove_plan_id_defccf88_fk_bench_plan_id FOREIGN KEY (plan_id) REFERENCES public.bench_plan(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_planmove
    ADD CONSTRAINT bench_planmove_shop_id_dc58d9ad_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_reading
    ADD CONSTRAINT bench_reading_created_by_id_95424cfe_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_reading
    ADD CONSTRAINT bench_reading_instrument_id_fa2256e3_fk_instrumen FOREIGN KEY (instrument_id) REFERENCES public.instruments_instrument(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_reading
    ADD CONSTRAINT bench_reading_meter_table_id_14d3093b_fk_instrumen FOREIGN KEY (meter_table_id) REFERENCES public.instruments_metertable(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_reading
    ADD CONSTRAINT bench_reading_reading_set_id_d2475fd7_fk_bench_readingset_id FOREIGN KEY (reading_set_id) REFERENCES public.bench_readingset(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_reading
    ADD CONSTRAINT bench_reading_shop_id_8064a983_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_readingset
    ADD CONSTRAINT bench_readingset_created_by_id_cdb24b9e_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_readingset
    ADD CONSTRAINT bench_readingset_job_id_97dc233a_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_readingset
    ADD CONSTRAINT bench_readingset_shop_id_4c5dfc93_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_resumeproof
    ADD CONSTRAINT bench_resumeproof_created_by_id_3d3d8f86_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_resumeproof
    ADD CONSTRAINT bench_resumeproof_last_move_id_6f9e2c71_fk_bench_planmove_id FOREIGN KEY (last_move_id) REFERENCES public.bench_planmove(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_resumeproof
    ADD CONSTRAINT bench_resumeproof_plan_id_b75d04e6_fk_bench_plan_id FOREIGN KEY (plan_id) REFERENCES public.bench_plan(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_resumeproof
    ADD CONSTRAINT bench_resumeproof_shop_id_371f2904_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_tracewithdrawal
    ADD CONSTRAINT bench_tracewithdrawa_created_by_id_34abf045_fk_accounts_ FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_tracewithdrawal
    ADD CONSTRAINT bench_tracewithdrawal_shop_id_5c7b8acd_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.bench_tracewithdrawal
    ADD CONSTRAINT bench_tracewithdrawal_trace_id_f08e6098_fk_bench_dialtrace_id FOREIGN KEY (trace_id) REFERENCES public.bench_dialtrace(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_kitsheet
    ADD CONSTRAINT building_kitsheet_created_by_id_167675b5_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_kitsheet
    ADD CONSTRAINT building_kitsheet_job_id_a8d5912e_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_kitsheet
    ADD CONSTRAINT building_kitsheet_shop_id_b6e58d76_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_lacinglook
    ADD CONSTRAINT building_lacinglook_created_by_id_11d0154a_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_lacinglook
    ADD CONSTRAINT building_lacinglook_job_id_81da8dfb_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_lacinglook
    ADD CONSTRAINT building_lacinglook_shop_id_0dbb11a3_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_lacingprogress
    ADD CONSTRAINT building_lacingprogr_created_by_id_25837e80_fk_accounts_ FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_lacingprogress
    ADD CONSTRAINT building_lacingprogress_job_id_04476c96_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_lacingprogress
    ADD CONSTRAINT building_lacingprogress_shop_id_c8e44fe4_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_oldspoke
    ADD CONSTRAINT building_oldspoke_created_by_id_7318d2ed_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_oldspoke
    ADD CONSTRAINT building_oldspoke_job_id_459193d8_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_oldspoke
    ADD CONSTRAINT building_oldspoke_shop_id_bdc4fa73_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_oldspoke
    ADD CONSTRAINT building_oldspoke_wheel_id_809681e4_fk_wheels_wheel_id FOREIGN KEY (wheel_id) REFERENCES public.wheels_wheel(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_smallpartscount
    ADD CONSTRAINT building_smallpartsc_created_by_id_c0c6af42_fk_accounts_ FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_smallpartscount
    ADD CONSTRAINT building_smallpartscount_job_id_e2f7caba_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_smallpartscount
    ADD CONSTRAINT building_smallpartscount_shop_id_39c43a89_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_spokechoice
    ADD CONSTRAINT building_spokechoice_created_by_id_cab32d03_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_spokechoice
    ADD CONSTRAINT building_spokechoice_job_id_fb6a604c_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_spokechoice
    ADD CONSTRAINT building_spokechoice_part_id_637e64fb_fk_stock_part_id FOREIGN KEY (part_id) REFERENCES public.stock_part(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_spokechoice
    ADD CONSTRAINT building_spokechoice_shop_id_beef26f5_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_stepdone
    ADD CONSTRAINT building_stepdone_created_by_id_ae662329_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_stepdone
    ADD CONSTRAINT building_stepdone_job_id_ffd4fd2d_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_stepdone
    ADD CONSTRAINT building_stepdone_shop_id_104b1cb6_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_workfacts
    ADD CONSTRAINT building_workfacts_created_by_id_b102f127_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_workfacts
    ADD CONSTRAINT building_workfacts_job_id_a31f749d_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_workfacts
    ADD CONSTRAINT building_workfacts_shop_id_cb366b9a_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.calendar_absence
    ADD CONSTRAINT calendar_absence_created_by_id_50957e67_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.calendar_absence
    ADD CONSTRAINT calendar_absence_person_id_67e0e403_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.calendar_absence
    ADD CONSTRAINT calendar_absence_shop_id_60e7d2a2_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.calendar_closedday
    ADD CONSTRAINT calendar_closedday_created_by_id_50462d15_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.calendar_closedday
    ADD CONSTRAINT calendar_closedday_shop_id_d585e2d0_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.calendar_openspan
    ADD CONSTRAINT calendar_openspan_created_by_id_2bcd203a_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.calendar_openspan
    ADD CONSTRAINT calendar_openspan_shop_id_b4c5a4c3_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.calendar_shift
    ADD CONSTRAINT calendar_shift_created_by_id_2f96f620_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.calendar_shift
    ADD CONSTRAINT calendar_shift_person_id_6896ee30_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.calendar_shift
    ADD CONSTRAINT calendar_shift_shop_id_f0b4d12d_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_conditionmark
    ADD CONSTRAINT condition_conditionm_created_by_id_4b627b6f_fk_accounts_ FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_conditionmark
    ADD CONSTRAINT condition_conditionmark_job_id_693dd1b4_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_conditionmark
    ADD CONSTRAINT condition_conditionmark_photo_id_cd34c562_fk_queue_photo_id FOREIGN KEY (photo_id) REFERENCES public.queue_photo(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_conditionmark
    ADD CONSTRAINT condition_conditionmark_shop_id_eba0c254_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_conditionmark
    ADD CONSTRAINT condition_conditionmark_wheel_id_11a8f4f8_fk_wheels_wheel_id FOREIGN KEY (wheel_id) REFERENCES public.wheels_wheel(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_ending
    ADD CONSTRAINT condition_ending_created_by_id_0a0c9549_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_ending
    ADD CONSTRAINT condition_ending_job_id_9115e022_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_ending
    ADD CONSTRAINT condition_ending_mark_id_f6b1a1ce_fk_condition_conditionmark_id FOREIGN KEY (mark_id) REFERENCES public.condition_conditionmark(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_ending
    ADD CONSTRAINT condition_ending_shop_id_d9f42742_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_ending
    ADD CONSTRAINT condition_ending_spoke_break_id_dd6463aa_fk_condition FOREIGN KEY (spoke_break_id) REFERENCES public.condition_spokebreak(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_framecheck
    ADD CONSTRAINT condition_framecheck_created_by_id_a1727400_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_framecheck
    ADD CONSTRAINT condition_framecheck_job_id_37d3064d_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_framecheck
    ADD CONSTRAINT condition_framecheck_shop_id_8534e31a_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_spokebreak
    ADD CONSTRAINT condition_spokebreak_created_by_id_ff50f168_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_spokebreak
    ADD CONSTRAINT condition_spokebreak_job_id_fb5bf239_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_spokebreak
    ADD CONSTRAINT condition_spokebreak_shop_id_ac88260a_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.condition_spokebreak
    ADD CONSTRAINT condition_spokebreak_wheel_id_fa43dad6_fk_wheels_wheel_id FOREIGN KEY (wheel_id) REFERENCES public.wheels_wheel(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.customers_bike
    ADD CONSTRAINT customers_bike_changed_by_id_0c8dd885_fk_accounts_user_id FOREIGN KEY (changed_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.customers_bike
    ADD CONSTRAINT customers_bike_created_by_id_e28c046f_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.customers_bike
    ADD CONSTRAINT customers_bike_customer_id_5aea0971_fk_customers_customer_id FOREIGN KEY (customer_id) REFERENCES public.customers_customer(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.customers_bike
    ADD CONSTRAINT customers_bike_shop_id_6b0b0f6c_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.customers_customer
    ADD CONSTRAINT customers_customer_changed_by_id_0bb368f3_fk_accounts_user_id FOREIGN KEY (changed_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.customers_customer
    ADD CONSTRAINT customers_customer_created_by_id_e3e9e010_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.customers_customer
    ADD CONSTRAINT customers_customer_merged_into_id_2994ddb6_fk_customers FOREIGN KEY (merged_into_id) REFERENCES public.customers_customer(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.customers_customer
    ADD CONSTRAINT customers_customer_shop_id_4e9d8254_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.fleet_lot
    ADD CONSTRAINT fleet_lot_changed_by_id_29c325fe_fk_accounts_user_id FOREIGN KEY (changed_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.fleet_lot
    ADD CONSTRAINT fleet_lot_created_by_id_da319041_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.fleet_lot
    ADD CONSTRAINT fleet_lot_customer_id_8ff1dc31_fk_customers_customer_id FOREIGN KEY (customer_id) REFERENCES public.customers_customer(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.fleet_lot
    ADD CONSTRAINT fleet_lot_shop_id_48dbf334_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.fleet_lotitem
    ADD CONSTRAINT fleet_lotitem_created_by_id_822c6015_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.fleet_lotitem
    ADD CONSTRAINT fleet_lotitem_job_id_526652d9_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.fleet_lotitem
    ADD CONSTRAINT fleet_lotitem_lot_id_fa251df0_fk_fleet_lot_id FOREIGN KEY (lot_id) REFERENCES public.fleet_lot(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.fleet_lotitem
    ADD CONSTRAINT fleet_lotitem_shop_id_f5500a59_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.links_calendarfeed
    ADD CONSTRAINT links_calendarfeed_created_by_id_232b5cc1_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.links_calendarfeed
    ADD CONSTRAINT links_calendarfeed_ended_by_id_fe40f231_fk_accounts_user_id FOREIGN KEY (ended_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.links_calendarfeed
    ADD CONSTRAINT links_calendarfeed_shop_id_8c5199ea_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.links_customerlink
    ADD CONSTRAINT links_customerlink_created_by_id_dd3a576f_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.links_customerlink
    ADD CONSTRAINT links_customerlink_decision_id_b2698c18_fk_repair_decision_id FOREIGN KEY (decision_id) REFERENCES public.repair_decision(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.links_customerlink
    ADD CONSTRAINT links_customerlink_job_id_4d92ef55_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.links_customerlink
    ADD CONSTRAINT links_customerlink_revoked_by_id_4b2f4669_fk_accounts_user_id FOREIGN KEY (revoked_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.links_customerlink
    ADD CONSTRAINT links_customerlink_shop_id_016563ff_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.links_linkvisit
    ADD CONSTRAINT links_linkvisit_link_id_ba6706eb_fk_links_customerlink_id FOREIGN KEY (link_id) REFERENCES public.links_customerlink(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.live_liveevent
    ADD CONSTRAINT live_liveevent_shop_id_9ffc8e63_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.messages_caughtmail
    ADD CONSTRAINT messages_caughtmail_shop_id_d4699fd4_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.messages_message
    ADD CONSTRAINT messages_message_created_by_id_5bddd8c5_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.messages_message
    ADD CONSTRAINT messages_message_job_id_835938a6_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.messages_message
    ADD CONSTRAINT messages_message_shop_id_a993c79c_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.portable_sent
    ADD CONSTRAINT portable_sent_created_by_id_b3e3f291_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.portable_sent
    ADD CONSTRAINT portable_sent_customer_id_ae7a7107_fk_customers_customer_id FOREIGN KEY (customer_id) REFERENCES public.customers_customer(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.portable_sent
    ADD CONSTRAINT portable_sent_shop_id_753685c5_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.portable_taken
    ADD CONSTRAINT portable_taken_created_by_id_d7373335_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.portable_taken
    ADD CONSTRAINT portable_taken_customer_id_7df37124_fk_customers_customer_id FOREIGN KEY (customer_id) REFERENCES public.customers_customer(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.portable_taken
    ADD CONSTRAINT portable_taken_shop_id_99de70b0_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.portable_taken
    ADD CONSTRAINT portable_taken_wheel_id_cf104b8f_fk_wheels_wheel_id FOREIGN KEY (wheel_id) REFERENCES public.wheels_wheel(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.practice_practicerun
    ADD CONSTRAINT practice_practicerun_created_by_id_e80a1697_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.practice_practicerun
    ADD CONSTRAINT practice_practicerun_shop_id_f5df82cb_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.practice_practicetask
    ADD CONSTRAINT practice_practicetas_created_by_id_db64b246_fk_accounts_ FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.practice_practicetask
    ADD CONSTRAINT practice_practicetask_person_id_b347a0c8_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.practice_practicetask
    ADD CONSTRAINT practice_practicetask_shop_id_456580e9_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.privacy_consent
    ADD CONSTRAINT privacy_consent_created_by_id_f34b07b9_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.privacy_consent
    ADD CONSTRAINT privacy_consent_customer_id_fd1ad89f_fk_customers_customer_id FOREIGN KEY (customer_id) REFERENCES public.customers_customer(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.privacy_consent
    ADD CONSTRAINT privacy_consent_shop_id_b3693bea_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.privacy_erasure
    ADD CONSTRAINT privacy_erasure_created_by_id_3094633a_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.privacy_erasure
    ADD CONSTRAINT privacy_erasure_customer_id_1d984e68_fk_customers_customer_id FOREIGN KEY (customer_id) REFERENCES public.customers_customer(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.privacy_erasure
    ADD CONSTRAINT privacy_erasure_shop_id_6029e964_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.procrastinate_events
    ADD CONSTRAINT procrastinate_events_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.procrastinate_jobs(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.procrastinate_jobs
    ADD CONSTRAINT procrastinate_jobs_worker_id_fkey FOREIGN KEY (worker_id) REFERENCES public.procrastinate_workers(id) ON DELETE SET NULL;
ALTER TABLE ONLY public.procrastinate_periodic_defers
    ADD CONSTRAINT procrastinate_periodic_defers_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.procrastinate_jobs(id);
ALTER TABLE ONLY public.promises_shopplay
    ADD CONSTRAINT promises_shopplay_shop_id_8c3ed60a_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_job
    ADD CONSTRAINT queue_job_assigned_to_id_22c0ef5e_fk_accounts_user_id FOREIGN KEY (assigned_to_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_job
    ADD CONSTRAINT queue_job_changed_by_id_9dbd6200_fk_accounts_user_id FOREIGN KEY (changed_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_job
    ADD CONSTRAINT queue_job_created_by_id_cfe249c6_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_job
    ADD CONSTRAINT queue_job_hook_id_55f43645_fk_queue_place_id FOREIGN KEY (hook_id) REFERENCES public.queue_place(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_job
    ADD CONSTRAINT queue_job_shop_id_a6a49dad_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_job
    ADD CONSTRAINT queue_job_wheel_id_475eae32_fk_wheels_wheel_id FOREIGN KEY (wheel_id) REFERENCES public.wheels_wheel(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_jobevent
    ADD CONSTRAINT queue_jobevent_created_by_id_cec4b174_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_jobevent
    ADD CONSTRAINT queue_jobevent_job_id_841572be_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_jobevent
    ADD CONSTRAINT queue_jobevent_shop_id_e540eae9_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_jobfind
    ADD CONSTRAINT queue_jobfind_job_id_c47c1452_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_jobfind
    ADD CONSTRAINT queue_jobfind_shop_id_e739ab3d_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_photo
    ADD CONSTRAINT queue_photo_created_by_id_99f57a83_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_photo
    ADD CONSTRAINT queue_photo_job_id_a500e448_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_photo
    ADD CONSTRAINT queue_photo_shop_id_15771547_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_place
    ADD CONSTRAINT queue_place_changed_by_id_b7f9eb1f_fk_accounts_user_id FOREIGN KEY (changed_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_place
    ADD CONSTRAINT queue_place_created_by_id_13cb44b3_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_place
    ADD CONSTRAINT queue_place_shop_id_3e147712_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_shoppace
    ADD CONSTRAINT queue_shoppace_shop_id_9a08c7e4_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_shoptier
    ADD CONSTRAINT queue_shoptier_changed_by_id_3bda5d7d_fk_accounts_user_id FOREIGN KEY (changed_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_shoptier
    ADD CONSTRAINT queue_shoptier_created_by_id_ffb523f5_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_shoptier
    ADD CONSTRAINT queue_shoptier_shop_id_eed85d8b_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_signature
    ADD CONSTRAINT queue_signature_created_by_id_c6702760_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_signature
    ADD CONSTRAINT queue_signature_job_id_24f1c714_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_signature
    ADD CONSTRAINT queue_signature_shop_id_a07bf2c8_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_stagetime
    ADD CONSTRAINT queue_stagetime_created_by_id_1160c8c1_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_stagetime
    ADD CONSTRAINT queue_stagetime_job_id_e51b5a48_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_stagetime
    ADD CONSTRAINT queue_stagetime_shop_id_4c7f4762_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_waited
    ADD CONSTRAINT queue_waited_created_by_id_392e061d_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_waited
    ADD CONSTRAINT queue_waited_job_id_4502a9f2_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_waited
    ADD CONSTRAINT queue_waited_shop_id_2d7757a5_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_workspan
    ADD CONSTRAINT queue_workspan_created_by_id_2880f356_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_workspan
    ADD CONSTRAINT queue_workspan_ended_by_id_f3fdd787_fk_accounts_user_id FOREIGN KEY (ended_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_workspan
    ADD CONSTRAINT queue_workspan_job_id_8137772b_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_workspan
    ADD CONSTRAINT queue_workspan_person_id_96543853_fk_accounts_user_id FOREIGN KEY (person_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_workspan
    ADD CONSTRAINT queue_workspan_shop_id_4226fdbe_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.queue_workspan
    ADD CONSTRAINT queue_workspan_stand_id_0908ab03_fk_queue_place_id FOREIGN KEY (stand_id) REFERENCES public.queue_place(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_signoff
    ADD CONSTRAINT records_signoff_as_found_id_82b395f9_fk_bench_readingset_id FOREIGN KEY (as_found_id) REFERENCES public.bench_readingset(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_signoff
    ADD CONSTRAINT records_signoff_as_left_id_91951030_fk_bench_readingset_id FOREIGN KEY (as_left_id) REFERENCES public.bench_readingset(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_signoff
    ADD CONSTRAINT records_signoff_created_by_id_7551c4ba_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_signoff
    ADD CONSTRAINT records_signoff_job_id_0a7828ac_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.records_signoff
    ADD CONSTRAINT records_signoff_shop_id_6ca7fd3e_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.repair_decision
    ADD CONSTRAINT repair_decision_created_by_id_1c3d77bc_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.repair_decision
    ADD CONSTRAINT repair_decision_job_id_f0209594_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.repair_decision
    ADD CONSTRAINT repair_decision_shop_id_77da8c0e_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.repair_jobquote
    ADD CONSTRAINT repair_jobquote_changed_by_id_f1eb27ea_fk_accounts_user_id FOREIGN KEY (changed_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.repair_jobquote
    ADD CONSTRAINT repair_jobquote_created_by_id_77a1f419_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.repair_jobquote
    ADD CONSTRAINT repair_jobquote_job_id_6742f45b_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.repair_jobquote
    ADD CONSTRAINT repair_jobquote_shop_id_4ce8e00a_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.repair_payment
    ADD CONSTRAINT repair_payment_created_by_id_3c65e9fb_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.repair_payment
    ADD CONSTRAINT repair_payment_job_id_d58f01cf_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.repair_payment
    ADD CONSTRAINT repair_payment_shop_id_896da705_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.repair_refitanswer
    ADD CONSTRAINT repair_refitanswer_created_by_id_16c56898_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.repair_refitanswer
    ADD CONSTRAINT repair_refitanswer_job_id_b930fc47_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.repair_refitanswer
    ADD CONSTRAINT repair_refitanswer_shop_id_bb329205_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.signing_signingkey
    ADD CONSTRAINT signing_signingkey_created_by_id_fa5e1d32_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.signing_signingkey
    ADD CONSTRAINT signing_signingkey_ended_by_id_39d191dc_fk_accounts_user_id FOREIGN KEY (ended_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.signing_signingkey
    ADD CONSTRAINT signing_signingkey_shop_id_102f688f_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.signing_signingkey
    ADD CONSTRAINT signing_signingkey_vouched_by_id_da3760ff_fk_signing_s FOREIGN KEY (vouched_by_id) REFERENCES public.signing_signingkey(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_balance
    ADD CONSTRAINT stock_balance_part_id_d3e48308_fk_stock_part_id FOREIGN KEY (part_id) REFERENCES public.stock_part(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_balance
    ADD CONSTRAINT stock_balance_shop_id_89c6cf9a_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_claimed
    ADD CONSTRAINT stock_claimed_job_id_7cc20438_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_claimed
    ADD CONSTRAINT stock_claimed_part_id_f61ac0b7_fk_stock_part_id FOREIGN KEY (part_id) REFERENCES public.stock_part(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_claimed
    ADD CONSTRAINT stock_claimed_shop_id_24dfc4f7_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_movement
    ADD CONSTRAINT stock_movement_created_by_id_4d0216fc_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_movement
    ADD CONSTRAINT stock_movement_job_id_44556ea7_fk_queue_job_id FOREIGN KEY (job_id) REFERENCES public.queue_job(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_movement
    ADD CONSTRAINT stock_movement_order_line_id_6e027135_fk_stock_orderline_id FOREIGN KEY (order_line_id) REFERENCES public.stock_orderline(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_movement
    ADD CONSTRAINT stock_movement_part_id_99317568_fk_stock_part_id FOREIGN KEY (part_id) REFERENCES public.stock_part(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_movement
    ADD CONSTRAINT stock_movement_shop_id_8b8a7210_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_orderline
    ADD CONSTRAINT stock_orderline_created_by_id_f3a87c67_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_orderline
    ADD CONSTRAINT stock_orderline_order_id_72263c75_fk_stock_purchaseorder_id FOREIGN KEY (order_id) REFERENCES public.stock_purchaseorder(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_orderline
    ADD CONSTRAINT stock_orderline_part_id_fa0a3dd5_fk_stock_part_id FOREIGN KEY (part_id) REFERENCES public.stock_part(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_orderline
    ADD CONSTRAINT stock_orderline_shop_id_c12ff75d_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_part
    ADD CONSTRAINT stock_part_changed_by_id_1aeb5688_fk_accounts_user_id FOREIGN KEY (changed_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_part
    ADD CONSTRAINT stock_part_created_by_id_ad65e4ff_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_part
    ADD CONSTRAINT stock_part_shop_id_09c16e8f_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_purchaseorder
    ADD CONSTRAINT stock_purchaseorder_changed_by_id_87ac831b_fk_accounts_user_id FOREIGN KEY (changed_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_purchaseorder
    ADD CONSTRAINT stock_purchaseorder_created_by_id_56421af7_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.stock_purchaseorder
    ADD CONSTRAINT stock_purchaseorder_shop_id_8e194e69_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.trail_change
    ADD CONSTRAINT trail_change_by_id_d729bf41_fk_accounts_user_id FOREIGN KEY (by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.trail_change
    ADD CONSTRAINT trail_change_shop_id_eaf98978_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.wheels_pattern
    ADD CONSTRAINT wheels_pattern_changed_by_id_e27fedf7_fk_accounts_user_id FOREIGN KEY (changed_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.wheels_pattern
    ADD CONSTRAINT wheels_pattern_created_by_id_df7d1db7_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.wheels_pattern
    ADD CONSTRAINT wheels_pattern_shop_id_757abe92_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.wheels_wheel
    ADD CONSTRAINT wheels_wheel_bike_id_adde9376_fk_customers_bike_id FOREIGN KEY (bike_id) REFERENCES public.customers_bike(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.wheels_wheel
    ADD CONSTRAINT wheels_wheel_changed_by_id_ec76a864_fk_accounts_user_id FOREIGN KEY (changed_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.wheels_wheel
    ADD CONSTRAINT wheels_wheel_created_by_id_dda35ab1_fk_accounts_user_id FOREIGN KEY (created_by_id) REFERENCES public.accounts_user(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.wheels_wheel
    ADD CONSTRAINT wheels_wheel_shop_id_4c956add_fk_accounts_shop_id FOREIGN KEY (shop_id) REFERENCES public.accounts_shop(id) DEFERRABLE INITIALLY DEFERRED;
