// Package ground names the soils and how wet they lie.
package ground

// Soils lists the soils, loosest first; a spot has one of them.
func Soils() []string {
	return []string{"loose_sand", "firm_sand", "loam", "firm_clay", "soft_clay", "shale", "muck"}
}

// Wetnesses lists how wet a soil can lie.
func Wetnesses() []string { return []string{"dry", "moist", "wet"} }
