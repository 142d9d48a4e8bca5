// Package http3 stands in for the one that Gin imports and that is not used here: nothing is served
// by QUIC. It would make a tenth of the program.
package http3

import (
	"errors"
	"net/http"
)

// ListenAndServeQUIC refuses.
func ListenAndServeQUIC(addr, certFile, keyFile string, handler http.Handler) error {
	return errors.New("QUIC is not served")
}
