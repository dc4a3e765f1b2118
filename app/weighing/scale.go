package weighing

import (
	"bufio"
	"context"
	"fmt"
	"log/slog"
	"net"
	"strconv"
	"strings"
	"sync"
	"time"

	"ergasia/app/refuse"
	"ergasia/core/weigh"
)

// Scale is a hanging scale that the program reads over the network; the line
// protocol is in docs/formats.md. Its address comes from whoever runs the
// program, never from a request.
type Scale struct {
	mu        sync.Mutex
	conn      net.Conn
	step      float64
	simulated bool
	readings  []weigh.Reading
	over      bool
	last      time.Time
}

// Bounds of the reading.
const (
	scaleKept  = 4 * weigh.Window
	scaleQuiet = 2 * time.Second // without a line: not connected
	scaleRetry = time.Second
	scaleLine  = 200 // bytes
)

// ReadScale reads the scale at an address until the context ends, and tries
// again where it can't be reached.
func (a *Wing) ReadScale(ctx context.Context, address string) {
	for ctx.Err() == nil {
		if err := a.scale.read(ctx, address); err != nil && ctx.Err() == nil {
			slog.InfoContext(ctx, "the scale is not there", "error", err)
		}
		select {
		case <-ctx.Done():
		case <-time.After(scaleRetry):
		}
	}
}

func (s *Scale) read(ctx context.Context, address string) error {
	conn, err := (&net.Dialer{Timeout: 3 * time.Second}).DialContext(ctx, "tcp", address)
	if err != nil {
		return err
	}
	stop := context.AfterFunc(ctx, func() { _ = conn.Close() })
	defer stop()
	defer s.hangUp()
	lines := bufio.NewScanner(conn)
	lines.Buffer(make([]byte, scaleLine), scaleLine)
	if !lines.Scan() || !strings.HasPrefix(lines.Text(), "ergasia-scale 1 ") {
		_ = conn.Close()
		return fmt.Errorf("what answers at %s is no scale: it should greet with ergasia-scale 1", address)
	}
	s.greet(conn, lines.Text())
	for lines.Scan() {
		s.take(lines.Text())
	}
	return lines.Err()
}

func (s *Scale) greet(conn net.Conn, line string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.conn, s.step, s.simulated, s.readings = conn, 0.01, false, nil
	for _, word := range strings.Fields(line) {
		if step, is := strings.CutPrefix(word, "step="); is {
			if n, err := strconv.ParseFloat(step, 64); err == nil && n > 0 && n < 10 {
				s.step = n
			}
		}
		s.simulated = s.simulated || word == "simulated"
	}
}

func (s *Scale) take(line string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if text, is := strings.CutPrefix(line, "kg "); is {
		if kg, err := strconv.ParseFloat(strings.TrimSpace(text), 64); err == nil && kg > -1000 && kg < 1000 {
			s.over, s.last = false, time.Now()
			s.readings = append(s.readings, kg)
			if len(s.readings) > scaleKept {
				s.readings = append([]weigh.Reading{}, s.readings[len(s.readings)-weigh.Window:]...)
			}
		}
	} else if line == "over" {
		s.over, s.last, s.readings = true, time.Now(), nil
	}
}

func (s *Scale) hangUp() {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.conn != nil {
		_ = s.conn.Close()
	}
	s.conn, s.readings, s.over = nil, nil, false
}

// ScaleView is what the scale shows.
type ScaleView struct {
	Connected bool     `json:"connected"`
	Simulated bool     `json:"simulated"`
	Over      bool     `json:"over" doc:"More hangs on it than it can weigh"`
	Kg        *float64 `json:"kg,omitempty" doc:"What it shows now, the tare taken off"`
	Still     bool     `json:"still" doc:"The load hangs still; sigma_kg is given"`
	SigmaKg   float64  `json:"sigma_kg" doc:"One standard deviation of kg"`
	GrossKg   float64  `json:"gross_kg"`
}

// Weight is what hangs on the scale, less a tare.
func (a *Wing) Weight(tare float64) ScaleView {
	s := a.scale
	s.mu.Lock()
	defer s.mu.Unlock()
	v := ScaleView{Connected: s.conn != nil && time.Since(s.last) < scaleQuiet, Simulated: s.simulated, Over: s.over}
	if !v.Connected || len(s.readings) == 0 {
		return v
	}
	gross := weigh.Still{Kg: s.readings[len(s.readings)-1]}
	if still, ok := weigh.Steady(s.readings, s.step); ok {
		gross, v.Still = still, true
	}
	net := weigh.Net(gross, weigh.Still{Kg: tare})
	v.Kg, v.SigmaKg, v.GrossKg = &net.Kg, net.Sigma, gross.Kg
	return v
}

// pretend tells a simulated scale what hangs on it.
func (s *Scale) pretend(kg float64) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.conn == nil || !s.simulated {
		return &refuse.Error{Kind: refuse.Refused, Sentence: "There is no simulated scale: hang the thing on the real one."}
	}
	_ = s.conn.SetWriteDeadline(time.Now().Add(2 * time.Second))
	if _, err := fmt.Fprintf(s.conn, "hang %.3f\n", kg); err != nil {
		return &refuse.Error{Kind: refuse.Refused, Sentence: "The scale does not answer: try again."}
	}
	s.readings = nil // what was read before was of another load
	return nil
}
