namespace Keralith.Core.Register;

/// <summary>
/// Writes a piece back as the fields its form has: what <see cref="PieceEntryReader"/> reads, in its own words.
/// </summary>
public static class PieceEntryFields
{
    /// <summary>The fields of a piece. Reading them gives the same piece.</summary>
    public static Dictionary<string, string> Of(PieceEntry entry)
    {
        var fields = PieceFields.All.ToDictionary(f => f.Name, f => f.Write(entry));
        if (!entry.TagRead)
            fields[PieceEntryReader.TagUnread] = "true";
        foreach (var chemical in entry.Surroundings.Chemicals)
            fields[PieceEntryReader.ChemicalField(chemical)] = "true";
        foreach (var (name, value) in entry.Gear.Values)
            fields[name] = value.Text;
        foreach (var code in entry.TagEntries)
            fields[PieceEntryReader.TagField(code)] = "true";
        foreach (var (key, figure) in entry.Baselines)
        {
            var (value, basis, links) = PieceEntryReader.Fields(key);
            fields[value] = figure.Length.ToString();
            fields[basis] = Code.Of(figure.Basis);
            if (figure.Links is { } count)
                fields[links] = count.ToString();
        }

        return fields;
    }

    /// <summary>
    /// The fields of a piece as a start for another like it. Its figures are a twin's there, never better; what its marking
    /// carries is read from the other's own.
    /// </summary>
    public static Dictionary<string, string> StartOf(PieceEntry entry)
    {
        var alike = entry with
        {
            TagEntries = [],
            Baselines = entry.Baselines.ToDictionary(
                b => b.Key,
                b =>
                    b.Value.Basis == Judgement.BaselineBasis.New
                        ? b.Value with
                        {
                            Basis = Judgement.BaselineBasis.Twin,
                        }
                        : b.Value
            ),
        };
        var fields = Of(alike);
        foreach (var own in PieceFields.All.Where(f => f.IsOwn))
            fields.Remove(own.Name);
        return fields;
    }
}
