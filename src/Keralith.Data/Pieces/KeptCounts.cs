using System.Collections.Concurrent;

namespace Keralith.Data;

/// <summary>
/// Counts by what was asked. They hold for as long as the ledger has not grown: whatever changes a piece is written
/// there in the same transaction.
/// </summary>
/// <typeparam name="T">What is kept.</typeparam>
internal sealed class KeptCounts<T>
    where T : class
{
    private const int Most = 200;

    private readonly ConcurrentDictionary<string, (long Ledger, T Counts)> _kept = new();

    /// <summary>What was counted; null where it was not, or the ledger has grown since.</summary>
    public T? Find(string asked, long ledger) =>
        _kept.TryGetValue(asked, out var known) && known.Ledger == ledger ? known.Counts : null;

    public void Keep(string asked, long ledger, T counts)
    {
        if (_kept.Count >= Most)
            _kept.Clear();
        _kept[asked] = (ledger, counts);
    }
}
