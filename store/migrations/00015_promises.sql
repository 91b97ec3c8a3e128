-- +goose Up
-- What the chains of a make said of each night that it stood: made out in the background, and in no archive.
CREATE TABLE promises (
    make_id TEXT PRIMARY KEY REFERENCES makes (id),
    said TEXT NOT NULL
) WITHOUT ROWID;

-- How far that is made out on a line: the night from which on it is not, by what form of the computation it was, and the earliest time that something
-- happened at since, which moves what was promised from then on. What bears no time is marked with a blank.
CREATE TABLE promising (
    line_id TEXT PRIMARY KEY REFERENCES lines (id),
    since TIMESTAMP,
    form TEXT NOT NULL DEFAULT '',
    marked TEXT
) WITHOUT ROWID;

-- +goose StatementBegin
CREATE TRIGGER makes_put AFTER INSERT ON makes BEGIN
    INSERT INTO promising (line_id, marked) VALUES (NEW.line_id, NEW.built_at)
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER makes_changed AFTER UPDATE OF set_id, layout, built_at, undone_at ON makes BEGIN
    INSERT INTO promising (line_id, marked) VALUES (NEW.line_id, min(OLD.built_at, NEW.built_at))
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER visits_put AFTER INSERT ON visits BEGIN
    INSERT INTO promising (line_id, marked) VALUES (NEW.line_id, NEW.at)
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER visits_changed AFTER UPDATE ON visits BEGIN
    INSERT INTO promising (line_id, marked) VALUES (NEW.line_id, min(OLD.at, NEW.at))
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER pulls_put AFTER INSERT ON pulls BEGIN
    INSERT INTO promising (line_id, marked) VALUES (NEW.line_id, NEW.at)
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER pulls_changed AFTER UPDATE ON pulls BEGIN
    INSERT INTO promising (line_id, marked) VALUES (NEW.line_id, min(OLD.at, NEW.at))
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER signs_put AFTER INSERT ON signs BEGIN
    INSERT INTO promising (line_id, marked) VALUES (NEW.line_id, NEW.seen_at)
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER signs_changed AFTER UPDATE ON signs BEGIN
    INSERT INTO promising (line_id, marked) VALUES (NEW.line_id, min(OLD.seen_at, NEW.seen_at))
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER readings_put AFTER INSERT ON readings BEGIN
    INSERT INTO promising (line_id, marked) VALUES (NEW.line_id, NEW.at)
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER readings_changed AFTER UPDATE ON readings BEGIN
    INSERT INTO promising (line_id, marked) VALUES (NEW.line_id, min(OLD.at, NEW.at))
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER spots_put AFTER INSERT ON spots BEGIN
    INSERT INTO promising (line_id, marked) VALUES (NEW.line_id, '')
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER features_put AFTER INSERT ON features BEGIN
    INSERT INTO promising (line_id, marked) VALUES (NEW.line_id, '')
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER spots_changed AFTER UPDATE ON spots BEGIN
    INSERT INTO promising (line_id, marked) VALUES (NEW.line_id, '')
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER features_changed AFTER UPDATE ON features BEGIN
    INSERT INTO promising (line_id, marked) VALUES (NEW.line_id, '')
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER catches_insert AFTER INSERT ON catches BEGIN
    INSERT INTO promising (line_id, marked) SELECT line_id, at FROM visits WHERE id = NEW.visit_id
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER catches_update AFTER UPDATE ON catches BEGIN
    INSERT INTO promising (line_id, marked) SELECT line_id, at FROM visits WHERE id = NEW.visit_id
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER catches_delete AFTER DELETE ON catches BEGIN
    INSERT INTO promising (line_id, marked) SELECT line_id, at FROM visits WHERE id = OLD.visit_id
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER hours_put AFTER INSERT ON weather_hours WHEN NOT NEW.forecast BEGIN
    INSERT INTO promising (line_id, marked) VALUES (NEW.line_id, NEW.at)
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER hours_changed AFTER UPDATE ON weather_hours WHEN NOT NEW.forecast AND (NEW.temp_c <> OLD.temp_c OR NEW.wind_from_deg <> OLD.wind_from_deg OR NEW.wind_ms <> OLD.wind_ms OR NEW.rain_mm <> OLD.rain_mm OR NEW.snow_cm <> OLD.snow_cm OR NEW.snow_depth_cm <> OLD.snow_depth_cm) BEGIN
    INSERT INTO promising (line_id, marked) VALUES (NEW.line_id, NEW.at)
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER hours_dropped AFTER DELETE ON weather_hours WHEN NOT OLD.forecast BEGIN
    INSERT INTO promising (line_id, marked) VALUES (OLD.line_id, OLD.at)
        ON CONFLICT (line_id) DO UPDATE SET marked = min(coalesce(marked, excluded.marked), excluded.marked);
END;
-- +goose StatementEnd
