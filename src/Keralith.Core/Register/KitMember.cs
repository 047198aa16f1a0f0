using Keralith.Core.Custody;
using Keralith.Core.Quantities;

namespace Keralith.Core.Register;

/// <summary>What a member of a kit bears.</summary>
public enum KitShare
{
    /// <summary>A leg's load.</summary>
    [Code("bears")]
    EachLeg,

    /// <summary>The whole load: the apex, ring or link that all legs hang from.</summary>
    [Code("common")]
    Common,

    /// <summary>Nothing: a wear sleeve, a spare.</summary>
    [Code("spare")]
    Spare,
}

/// <summary>One line of a kit's roster.</summary>
/// <param name="Count">How many of it belong to the kit.</param>
/// <param name="Name">What it is.</param>
/// <param name="RatedLoad">As marked on each.</param>
/// <param name="Bears">What it bears.</param>
/// <param name="Mark">The mark under which it is registered itself; null where it is not.</param>
public sealed record KitMember(int Count, string Name, Mass? RatedLoad, KitShare Bears, Mark? Mark)
{
    /// <summary>Most lines of a roster.</summary>
    public const int Most = 40;

    /// <summary>As it is typed: <c>2; hook, eye; 3500 lb; bears; HM-0042</c>.</summary>
    public override string ToString() =>
        string.Join(
            "; ",
            new[] { Count.ToString(), Name, RatedLoad?.ToString() ?? "-", Code.Of(Bears), Mark?.Text }.OfType<string>()
        );

    /// <summary>Reads a line as typed.</summary>
    public static Checked<KitMember> Read(string line)
    {
        var cells = line.Split(';', StringSplitOptions.TrimEntries);
        var said = line.Trim();
        if (cells.Length is < 4 or > 5)
            return new Refusal(
                $"\"{said}\": write count; name; rated load or -; bears, common or spare; its mark if it has one, such as 2; foundry hook; 3500 lb; bears"
            );
        if (
            !int.TryParse(cells[0], System.Globalization.NumberStyles.None, null, out var count)
            || count is < 1 or > 1000
        )
            return new Refusal($"\"{said}\": the count is a whole number from 1 to 1000");
        if (cells[1].Length is 0 or > 80)
            return new Refusal($"\"{said}\": name it in at most 80 letters");
        if (Code.Find<KitShare>(cells[3]) is not { } bears)
            return new Refusal(
                $"\"{said}\": say whether it bears a leg's load, what all legs have in common, or nothing: bears, common or spare"
            );
        Mass? load = null;
        if (cells[2] is not ("-" or ""))
        {
            var read = Mass.Read(cells[2]);
            if (!read.Ok)
                return new Refusal($"\"{said}\": {read.Fault}");
            if (read.Value.Kilograms <= 0)
                return new Refusal($"\"{said}\": a rated load is over 0");
            load = read.Value;
        }

        Mark? mark = null;
        if (cells.Length == 5 && cells[4].Length > 0)
        {
            var read = Custody.Mark.Read(cells[4]);
            if (!read.Ok)
                return new Refusal($"\"{said}\": {read.Fault}");
            mark = read.Value;
        }

        return new KitMember(count, cells[1], load, bears, mark);
    }

    /// <summary>A roster as it is kept, a line each; what can't be read is left to whoever reads the piece.</summary>
    public static IReadOnlyList<KitMember> Roster(string lines) =>
        [
            .. lines
                .Split('\n', StringSplitOptions.RemoveEmptyEntries)
                .Select(Read)
                .Where(m => m.Ok)
                .Select(m => m.Value),
        ];

    /// <summary>
    /// What one leg of a kit carries: its weakest member that bears load. Null where one of them has no rated load, or
    /// none bears any.
    /// </summary>
    public static Mass? OneLeg(IReadOnlyCollection<KitMember> members)
    {
        var bearing = members.Where(m => m.Bears == KitShare.EachLeg).ToList();
        return bearing.Count == 0 || bearing.Any(m => m.RatedLoad is null)
            ? null
            : bearing.Min(m => m.RatedLoad!.Value);
    }

    /// <summary>
    /// What the members that all legs have in common carry: the weakest of them. Null where there are none, or one of
    /// them has no rated load.
    /// </summary>
    public static Mass? Common(IReadOnlyCollection<KitMember> members)
    {
        var common = members.Where(m => m.Bears == KitShare.Common).ToList();
        return common.Count == 0 || common.Any(m => m.RatedLoad is null) ? null : common.Min(m => m.RatedLoad!.Value);
    }
}
