package store

import (
	"time"

	"oldburrow/core/line"
)

// Acts lists what was done on a line from a time until another, in order; what was taken back is among them.
func (v View) Acts(lineID string, from, until time.Time) ([]line.Act, error) {
	return all[line.Act](v, "visits", `
		SELECT 'look' AS kind, v.id, v.at AS at, coalesce(v.timed, TRUE) AS timed, m.set_id, '' AS trap_id, '' AS lure_id, '' AS spot_id, v.finding AS what, v.undone_at IS NOT NULL AS undone
		FROM visits v JOIN makes m ON m.id = v.make_id WHERE v.line_id = ?1 AND v.at >= ?2 AND v.at < ?3
		UNION ALL SELECT 'make', id, built_at, TRUE, set_id, '', '', '', target, undone_at IS NOT NULL FROM makes WHERE line_id = ?1 AND built_at >= ?2 AND built_at < ?3
		UNION ALL SELECT 'pull', p.id, p.at, TRUE, m.set_id, '', '', '', '', p.undone_at IS NOT NULL
		FROM pulls p JOIN makes m ON m.id = p.make_id WHERE p.line_id = ?1 AND p.at >= ?2 AND p.at < ?3
		UNION ALL SELECT 'dose', id, at, TRUE, '', '', lure_id, coalesce(spot_id, ''), CAST(count AS TEXT), undone_at IS NOT NULL FROM doses WHERE line_id = ?1 AND at >= ?2 AND at < ?3
		UNION ALL SELECT 'measurement', id, at, TRUE, '', trap_id, '', '', '', undone_at IS NOT NULL FROM measurements WHERE line_id = ?1 AND at >= ?2 AND at < ?3
		UNION ALL SELECT 'sign', id, seen_at, TRUE, '', '', '', coalesce(spot_id, ''), what || ' ' || animal, deleted FROM signs WHERE line_id = ?1 AND seen_at >= ?2 AND seen_at < ?3
		ORDER BY 3, 2`, lineID, from.UTC(), until.UTC())
}

// UndoSign takes a sign back.
func (t *Tx) UndoSign(lineID, id string) (line.Sign, error) {
	if _, err := t.tx.Exec(`UPDATE signs SET deleted = TRUE, version = version + 1 WHERE id = ? AND line_id = ? AND NOT deleted`, id, lineID); err != nil {
		return line.Sign{}, err
	}
	var row signRow
	if err := one(t.tx, &row, `SELECT * FROM signs WHERE id = ? AND line_id = ?`, id, lineID); err != nil {
		return line.Sign{}, err
	}
	return row.entity()
}
