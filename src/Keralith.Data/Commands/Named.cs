namespace Keralith.Data;

/// <summary>
/// Rows named by their ids, as the first parameter of a question. One row is asked for by itself: the server keeps that
/// plan, where a list is planned anew each time for how many it may hold.
/// </summary>
/// <param name="Ids">The ids, at least one.</param>
internal readonly record struct Named(Guid[] Ids)
{
    /// <summary>What stands behind the column.</summary>
    public string Is => Ids.Length == 1 ? "= $1" : "= any($1)";

    /// <summary>The first parameter.</summary>
    public object Value => Ids.Length == 1 ? Ids[0] : Ids;
}
