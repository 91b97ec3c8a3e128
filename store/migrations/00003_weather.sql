-- +goose Up
CREATE TABLE weather_hours (
    line_id TEXT NOT NULL REFERENCES lines (id),
    at TIMESTAMP NOT NULL,
    forecast BOOLEAN NOT NULL,
    temp_c REAL NOT NULL,
    wind_from_deg REAL NOT NULL,
    wind_ms REAL NOT NULL,
    rain_mm REAL NOT NULL,
    snow_cm REAL NOT NULL,
    snow_depth_cm REAL NOT NULL,
    own BOOLEAN NOT NULL, -- from the user's own log, which no service overwrites
    PRIMARY KEY (line_id, forecast, at)
) WITHOUT ROWID;

CREATE TABLE readings (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    kind TEXT NOT NULL,
    spot_id TEXT REFERENCES spots (id),
    at TIMESTAMP NOT NULL,
    value REAL NOT NULL,
    deleted BOOLEAN NOT NULL,
    version INTEGER NOT NULL
);
