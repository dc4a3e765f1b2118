package api

import (
	"io"
	"net/http"
	"time"
)

// How long a body may take to come, and an answer to go once it is made. Practice, no source.
const (
	bodyTime   = 15 * time.Second
	answerTime = 15 * time.Second
)

// bound gives a request's connection its time: for the body while it comes, and for the
// answer. Once the body is read no time runs for reading any more: while a handler works,
// net/http reads on to notice when the caller goes, and a deadline that passes then would
// end this request and every later one on the connection.
func bound(w http.ResponseWriter, r *http.Request, limit time.Duration) {
	connection := http.NewResponseController(w)
	_ = connection.SetWriteDeadline(time.Now().Add(limit + answerTime)) // a recorder of tests has none
	if r.Body == nil || r.Body == http.NoBody {
		_ = connection.SetReadDeadline(time.Time{})
		return
	}
	_ = connection.SetReadDeadline(time.Now().Add(bodyTime))
	r.Body = &timedBody{ReadCloser: r.Body, connection: connection}
}

// timedBody takes the deadline off its connection at its end.
type timedBody struct {
	io.ReadCloser
	connection *http.ResponseController
}

func (b *timedBody) Read(p []byte) (int, error) {
	n, err := b.ReadCloser.Read(p)
	if err == io.EOF {
		_ = b.connection.SetReadDeadline(time.Time{})
	}
	return n, err
}
