package e2e

import (
	"testing"
	"time"

	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/require"
)

// BenchmarkBenchPainted opens the stowing bench on a processor slowed four
// times and a network of 400 ms round trips (Chromium's own emulation, cache
// off), and reports seconds until the boat is drawn, with the ratio to the same
// page opened without.
func BenchmarkBenchPainted(b *testing.B) {
	for range b.N {
		d := start(b, "demo", databaseOf(b))
		p := browse(b, 1280, 800)
		p.signIn(d, "Ilse")
		address := p.MustInfo().URL
		plain := painted(b, p, address)
		require.NoError(b, proto.NetworkEnable{}.Call(p))
		require.NoError(b, proto.NetworkSetCacheDisabled{CacheDisabled: true}.Call(p))
		require.NoError(b, proto.NetworkEmulateNetworkConditions{Latency: 400, DownloadThroughput: 1.6e6 / 8 * 4,
			UploadThroughput: 750e3 / 8}.Call(p))
		require.NoError(b, proto.EmulationSetCPUThrottlingRate{Rate: 4}.Call(p))
		slow := painted(b, p, address)
		b.ReportMetric(slow.Seconds(), "s-painted-slow")
		b.ReportMetric(slow.Seconds()/plain.Seconds(), "slow/plain")
		script := p.MustEval(`() => performance.getEntriesByType('resource').filter(r => r.initiatorType === 'script')[0].encodedBodySize`).Int()
		b.ReportMetric(float64(script)/1000, "kB-first-script-gzipped")
	}
}

// painted is the time from asking for the page until a frame with the boat in
// it has been drawn, by the browser's own clock.
func painted(b *testing.B, p *page, address string) time.Duration {
	p.open(address)
	ms := p.MustEval(`() => new Promise(done => {
		const look = () => document.querySelector('[data-place]')
			? requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now())))
			: requestAnimationFrame(look);
		look();
	})`).Num()
	require.Positive(b, ms)
	return time.Duration(ms * float64(time.Millisecond))
}
