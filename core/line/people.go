package line

import "oldburrow/core/refuse"

// Role is what somebody may do on the lines of a file.
type Role string

// The roles. The owner holds the passphrase, or sits at the table.
const (
	Owner   Role = "owner"
	Partner Role = "partner"
	Helper  Role = "helper"
)

// GivenRoles are those that the owner gives to others.
var GivenRoles = []Role{Partner, Helper}

// Person is somebody who helps on the lines of a file.
type Person struct {
	ID      string `json:"id" db:"id"`
	Name    string `json:"name" db:"name"`
	Role    Role   `json:"role" db:"role"`
	Deleted bool   `json:"deleted" db:"deleted"`
	Version int    `json:"version" db:"version"`
}

// Check refuses a person without a name, or with a role that is not given.
func (x Person) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	p.Text("name", x.Name, 40)
	refuse.OneOf(&p, "role", x.Role, GivenRoles)
	return p.Err()
}
