using System.Security.Cryptography;

namespace Keralith.Core.Ledger;

/// <summary>
/// The ledger as a Merkle log (RFC 6962, section 2.1): one hash stands for all of it, a short proof shows that an entry is in it,
/// and another that a later head holds an earlier one. A leaf is an entry's hash.
/// </summary>
public static class MerkleLog
{
    /// <summary>The hash of a log without entries.</summary>
    public static byte[] Empty => SHA256.HashData([]);

    /// <summary>A leaf's hash: SHA-256 of a zero byte and what it stands for.</summary>
    public static byte[] Leaf(ReadOnlySpan<byte> data)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        hash.AppendData([0]);
        hash.AppendData(data);
        return hash.GetHashAndReset();
    }

    /// <summary>The root of a log.</summary>
    /// <param name="leaves">The leaves' hashes, in their order.</param>
    public static byte[] Root(ReadOnlySpan<byte[]> leaves)
    {
        if (leaves.Length == 0)
            return Empty;
        if (leaves.Length == 1)
            return leaves[0];
        var split = Split(leaves.Length);
        return Node(Root(leaves[..split]), Root(leaves[split..]));
    }

    /// <summary>What shows that a leaf is in a log: the hashes beside its way to the root, from the leaf up.</summary>
    /// <param name="index">The leaf's place, from 0.</param>
    /// <exception cref="ArgumentOutOfRangeException">There is no such leaf.</exception>
    public static IReadOnlyList<byte[]> Inclusion(int index, ReadOnlySpan<byte[]> leaves)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(index);
        ArgumentOutOfRangeException.ThrowIfGreaterThanOrEqual(index, leaves.Length);
        var path = new List<byte[]>();
        Include(index, leaves, path);
        return path;
    }

    /// <summary>Whether a leaf is in the log of a root.</summary>
    /// <param name="leaf">The leaf's hash.</param>
    /// <param name="index">Its place, from 0.</param>
    /// <param name="size">How many leaves the log has.</param>
    /// <param name="path">As <see cref="Inclusion"/> gave it.</param>
    public static bool Includes(byte[] leaf, long index, long size, IReadOnlyList<byte[]> path, byte[] root)
    {
        if (index < 0 || index >= size)
            return false;
        var (at, last, hash) = (index, size - 1, leaf);
        foreach (var beside in path)
        {
            if (last == 0)
                return false;
            if ((at & 1) == 1 || at == last)
            {
                hash = Node(beside, hash);
                while ((at & 1) == 0 && at != 0)
                    (at, last) = (at >> 1, last >> 1);
            }
            else
                hash = Node(hash, beside);
            (at, last) = (at >> 1, last >> 1);
        }

        return last == 0 && hash.AsSpan().SequenceEqual(root);
    }

    /// <summary>What shows that a log begins with an earlier one.</summary>
    /// <param name="earlier">How many leaves the earlier one had, 1 and over.</param>
    /// <exception cref="ArgumentOutOfRangeException">It had none, or more than this.</exception>
    public static IReadOnlyList<byte[]> Consistency(int earlier, ReadOnlySpan<byte[]> leaves)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(earlier, 1);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(earlier, leaves.Length);
        var path = new List<byte[]>();
        Hold(earlier, leaves, whole: true, path);
        return path;
    }

    /// <summary>Whether a log of a root begins with the one of an earlier root.</summary>
    /// <param name="path">As <see cref="Consistency"/> gave it.</param>
    public static bool Holds(long earlier, byte[] earlierRoot, long size, byte[] root, IReadOnlyList<byte[]> path)
    {
        if (earlier < 1 || earlier > size)
            return false;
        if (earlier == size)
            return path.Count == 0 && earlierRoot.AsSpan().SequenceEqual(root);
        var hashes = (earlier & (earlier - 1)) == 0 ? [earlierRoot, .. path] : path;
        if (hashes.Count == 0)
            return false;
        var (at, last) = (earlier - 1, size - 1);
        while ((at & 1) == 1)
            (at, last) = (at >> 1, last >> 1);
        var (first, second) = (hashes[0], hashes[0]);
        foreach (var beside in hashes.Skip(1))
        {
            if (last == 0)
                return false;
            if ((at & 1) == 1 || at == last)
            {
                (first, second) = (Node(beside, first), Node(beside, second));
                while ((at & 1) == 0 && at != 0)
                    (at, last) = (at >> 1, last >> 1);
            }
            else
                second = Node(second, beside);
            (at, last) = (at >> 1, last >> 1);
        }

        return last == 0 && first.AsSpan().SequenceEqual(earlierRoot) && second.AsSpan().SequenceEqual(root);
    }

    private static void Include(int index, ReadOnlySpan<byte[]> leaves, List<byte[]> path)
    {
        if (leaves.Length == 1)
            return;
        var split = Split(leaves.Length);
        if (index < split)
        {
            Include(index, leaves[..split], path);
            path.Add(Root(leaves[split..]));
        }
        else
        {
            Include(index - split, leaves[split..], path);
            path.Add(Root(leaves[..split]));
        }
    }

    private static void Hold(int earlier, ReadOnlySpan<byte[]> leaves, bool whole, List<byte[]> path)
    {
        if (earlier == leaves.Length)
        {
            if (!whole)
                path.Add(Root(leaves));
            return;
        }

        var split = Split(leaves.Length);
        if (earlier <= split)
        {
            Hold(earlier, leaves[..split], whole, path);
            path.Add(Root(leaves[split..]));
        }
        else
        {
            Hold(earlier - split, leaves[split..], whole: false, path);
            path.Add(Root(leaves[..split]));
        }
    }

    /// <summary>The largest power of two under a count over 1.</summary>
    private static int Split(int count) => 1 << System.Numerics.BitOperations.Log2((uint)count - 1);

    private static byte[] Node(byte[] left, byte[] right)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        hash.AppendData([1]);
        hash.AppendData(left);
        hash.AppendData(right);
        return hash.GetHashAndReset();
    }
}
