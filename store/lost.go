package store

import (
	"errors"
	"io"
	"net"
)

// isBrokenPipe tells whether the connection broke in the middle of a query.
func isBrokenPipe(err error) bool {
	var network net.Error
	return errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) || errors.As(err, &network)
}
