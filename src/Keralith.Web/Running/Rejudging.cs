using System.Collections.Concurrent;
using System.Diagnostics;
using Keralith.Core.Sites;
using Keralith.Data;

namespace Keralith.Web.Running;

/// <summary>The register being judged again, or judged: a page comes back to it.</summary>
public sealed class RejudgingRun : IProgress<int>
{
    private readonly Stopwatch _clock = Stopwatch.StartNew();
    private int _judged;

    /// <summary>How many records are judged so far.</summary>
    public int Judged => Volatile.Read(ref _judged);

    /// <summary>How long it took, or has taken so far.</summary>
    public TimeSpan Took => _clock.Elapsed;

    /// <summary>What came of it, when it is done.</summary>
    public Task<RegisterRejudged> Result { get; private set; } = null!;

    internal DateTimeOffset EndedAt { get; private set; } = DateTimeOffset.MaxValue;

    /// <inheritdoc />
    public void Report(int value) => Volatile.Write(ref _judged, value);

    internal static RejudgingRun Begin(Func<IProgress<int>, Task<RegisterRejudged>> work, TimeProvider time)
    {
        var run = new RejudgingRun();
        run.Result = Task.Run(async () =>
        {
            try
            {
                return await work(run);
            }
            finally
            {
                run._clock.Stop();
                run.EndedAt = time.GetUtcNow();
            }
        });
        return run;
    }
}

/// <summary>
/// Judges the register again beside the request that asked for it: a large one shows its progress, and is there when
/// somebody comes back. One run for all who ask the same.
/// </summary>
public sealed class Rejudging(JudgeAgain again, TimeProvider time, IHostApplicationLifetime life)
{
    /// <summary>How long a request waits: a small register is judged by then.</summary>
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(1.5);

    /// <summary>How long what came of it is shown; afterwards it is judged anew.</summary>
    private static readonly TimeSpan Kept = TimeSpan.FromMinutes(2);

    private readonly ConcurrentDictionary<string, Lazy<RejudgingRun>> _runs = new();

    /// <summary>The run of some rules over what stands in the record; comes back when it is done, or after a moment.</summary>
    /// <param name="site">The site, as it is or as it is tried.</param>
    /// <param name="sites">The sites of the works.</param>
    /// <param name="height">The height of the ledger: what was signed since makes it another run.</param>
    public async Task<RejudgingRun> OfAsync(Site site, SiteSet sites, long height)
    {
        var now = time.GetUtcNow();
        foreach (var old in _runs.Where(r => r.Value.Value.Result.IsFaulted || now - r.Value.Value.EndedAt > Kept))
            _runs.TryRemove(old);
        var key = $"{site.Id} {height} {string.Join(' ', site.Books.Select(b => b.Id))}";
        var run = _runs
            .GetOrAdd(key, _ =>
                new(() =>
                    RejudgingRun.Begin(
                        progress => again.RunAsync(sites.With(site), site.Id, life.ApplicationStopping, progress),
                        time
                    )
                )
            )
            .Value;
        await Task.WhenAny(run.Result, Task.Delay(Patience));
        return run;
    }
}
