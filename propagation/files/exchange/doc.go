// Package exchange reads and writes stem maps and cut plans as JSON and CSV. It touches no
// database: what it reads are records with the line they stood on, and the rows it could not
// read, each with the field and the reason.
//
// JSON is one object {"format": "clearjar/stem-maps" or "clearjar/cut-plans", "version": 1,
// "records": [...]}; a newer version is refused, an unknown field is a bad record. CSV has a
// header line; columns may come in any order, unknown ones are refused by name. Stem maps have
// one line a node, plans one line a piece. Lengths are mm; yes/no is true or false.
package exchange
