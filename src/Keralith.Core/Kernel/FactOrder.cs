namespace Keralith.Core.Kernel;

/// <summary>
/// Where a fact stands among all others: facts are numbered one after another as they are recorded, behind the lock of
/// what they are about, whatever any clock says. A fact without a number stands before every other.
/// </summary>
/// <param name="Number">Its number, from 1 up.</param>
public readonly record struct FactOrder(long Number) : IComparable<FactOrder>
{
    /// <summary>After every fact recorded so far: what is being recorded now.</summary>
    public static FactOrder Latest { get; } = new(long.MaxValue);

    public int CompareTo(FactOrder other) => Number.CompareTo(other.Number);

    public static bool operator <(FactOrder one, FactOrder other) => one.Number < other.Number;

    public static bool operator >(FactOrder one, FactOrder other) => one.Number > other.Number;

    public static bool operator <=(FactOrder one, FactOrder other) => one.Number <= other.Number;

    public static bool operator >=(FactOrder one, FactOrder other) => one.Number >= other.Number;
}
