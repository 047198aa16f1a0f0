using System.Collections.Concurrent;
using System.Diagnostics;

namespace Keralith.Web.Running;

/// <summary>Work that goes on beside the request that asked for it: a page comes back to it.</summary>
/// <typeparam name="T">What comes of it.</typeparam>
public sealed class BesideRun<T> : IProgress<int>
{
    private readonly Stopwatch _clock = Stopwatch.StartNew();
    private int _done;

    /// <summary>How much of it is done so far, in its own count.</summary>
    public int Done => Volatile.Read(ref _done);

    /// <summary>How long it took, or has taken so far.</summary>
    public TimeSpan Took => _clock.Elapsed;

    /// <summary>What came of it, when it is done.</summary>
    public Task<T> Result { get; private set; } = null!;

    internal DateTimeOffset EndedAt { get; private set; } = DateTimeOffset.MaxValue;

    /// <inheritdoc />
    public void Report(int value) => Volatile.Write(ref _done, value);

    internal static BesideRun<T> Begin(Func<IProgress<int>, Task<T>> work, TimeProvider time)
    {
        var run = new BesideRun<T>();
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
/// Runs of one kind of work: one for all who ask the same. What is large shows its progress, and is there when somebody
/// comes back.
/// </summary>
/// <typeparam name="T">What comes of it.</typeparam>
public sealed class Beside<T>(TimeProvider time)
{
    /// <summary>How long a request waits: what is small is done by then.</summary>
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(1.5);

    /// <summary>How long what came of it is kept; afterwards it is done anew.</summary>
    private static readonly TimeSpan Kept = TimeSpan.FromMinutes(2);

    private readonly ConcurrentDictionary<string, Lazy<BesideRun<T>>> _runs = new();

    /// <summary>The run of a question; comes back when it is done, or after a moment.</summary>
    /// <param name="asked">What is asked, and of which state of the record: asked alike, it is one run.</param>
    /// <param name="work">What is done; told by it how far it is.</param>
    public async Task<BesideRun<T>> OfAsync(string asked, Func<IProgress<int>, Task<T>> work)
    {
        var now = time.GetUtcNow();
        foreach (var old in _runs.Where(r => r.Value.Value.Result.IsFaulted || now - r.Value.Value.EndedAt > Kept))
            _runs.TryRemove(old);
        var run = _runs.GetOrAdd(asked, _ => new(() => BesideRun<T>.Begin(work, time))).Value;
        await Task.WhenAny(run.Result, Task.Delay(Patience));
        return run;
    }
}
