using Keralith.Core.Quantities;

namespace Keralith.Core.Gear;

/// <summary>What kind of value an attribute holds.</summary>
public enum AttributeKind
{
    /// <summary>A length over 0.</summary>
    Length,

    /// <summary>A mass over 0.</summary>
    Mass,

    /// <summary>A force over 0, with the load it was stated at where that is not the rated one: <c>260 N at 500 kg</c>.</summary>
    Force,

    /// <summary>A moment over 0.</summary>
    Moment,

    /// <summary>A whole number, 1 and over.</summary>
    Whole,

    /// <summary>A number over 0.</summary>
    Number,

    /// <summary>One of a few words.</summary>
    Choice,

    /// <summary>Yes or no.</summary>
    Flag,

    /// <summary>Free text.</summary>
    Text,

    /// <summary>A kit's roster: members and the least and most links of a leg.</summary>
    Roster,
}

/// <summary>One thing that may be stated of a piece of gear: its fixed name, what it holds and how it is asked for.</summary>
/// <param name="Name">The fixed camelCase name used by the file formats.</param>
/// <param name="Kind">What it holds.</param>
/// <param name="Label">How a form asks for it.</param>
/// <param name="Hint">What exactly is meant, or null where the label says it.</param>
public sealed record AttributeDefinition(string Name, AttributeKind Kind, string Label, string? Hint = null)
{
    /// <summary>For a choice: the words allowed, in the order shown.</summary>
    public IReadOnlyList<string> Choices { get; init; } = [];

    /// <summary>The most a whole number may be.</summary>
    public int Most { get; init; } = 1_000_000;

    /// <summary>Whether something is asked only of gear that carries it: a figure on record to hold a reading against.</summary>
    public bool BringsQuestion { get; init; }

    /// <summary>Whether it is written with a unit.</summary>
    public bool HasUnit =>
        Kind is AttributeKind.Length or AttributeKind.Mass or AttributeKind.Force or AttributeKind.Moment;

    /// <summary>Reads the attribute from text, as a form or a CSV cell gives it.</summary>
    public Checked<AttributeValue> Read(string text)
    {
        switch (Kind)
        {
            case AttributeKind.Length:
                return OverNothing(text, Length.Read, l => l.Millimetres, l => new LengthValue(l));
            case AttributeKind.Mass:
                return OverNothing(text, Mass.Read, m => m.Kilograms, m => new MassValue(m));
            case AttributeKind.Force:
                return ForceValue.Read(text);
            case AttributeKind.Moment:
                return OverNothing(text, Moment.Read, m => m.NewtonMetres, m => new MomentValue(m));
            case AttributeKind.Whole:
                return
                    int.TryParse(text, System.Globalization.NumberStyles.None, null, out var whole)
                    && whole >= 1
                    && whole <= Most
                    ? new WholeValue(whole)
                    : new Refusal(
                        $"\"{text}\" should be a whole number from 1{(Most < 1_000_000 ? $" to {Most}" : " up")}"
                    );
            case AttributeKind.Number:
                return OverNothing(text, t => QuantityText.Bare(t, "5"), n => n, n => new NumberValue(n));
            case AttributeKind.Choice:
                return Choices.Contains(text)
                    ? new TextValue(text)
                    : new Refusal($"\"{text}\" should be one of {string.Join(", ", Choices)}");
            case AttributeKind.Flag:
                return text switch
                {
                    "true" or "yes" => new FlagValue(true),
                    "false" or "no" => new FlagValue(false),
                    _ => new Refusal($"\"{text}\" should be true or false"),
                };
            case AttributeKind.Text:
                return text.Length is 0 or > 200 ? new Refusal("should be 1 to 200 letters long") : new TextValue(text);
            case AttributeKind.Roster:
                return RosterValue.Read(text) is { } roster
                    ? roster
                    : new Refusal($"\"{text}\" should be such as 8 members, 9 to 12 links");
            default:
                throw new InvalidOperationException($"No such attribute kind: {Kind}.");
        }
    }

    private static Checked<AttributeValue> OverNothing<T>(
        string text,
        Func<string?, Checked<T>> read,
        Func<T, decimal> amount,
        Func<T, AttributeValue> value
    )
        where T : struct
    {
        var written = read(text);
        return !written.Ok ? new Refusal(written.Fault!)
            : amount(written.Value) <= 0 ? new Refusal($"\"{text}\" should be over 0")
            : value(written.Value);
    }
}

/// <summary>The value of one attribute.</summary>
public abstract record AttributeValue
{
    private protected AttributeValue() { }

    /// <summary>The value as a form or file writes it, readable back by its definition.</summary>
    public abstract string Text { get; }
}

/// <summary>A length over 0.</summary>
public sealed record LengthValue(Length Length) : AttributeValue
{
    public override string Text => Length.ToString();
}

/// <summary>A mass over 0.</summary>
public sealed record MassValue(Mass Mass) : AttributeValue
{
    public override string Text => Mass.ToString();
}

/// <summary>A force over 0.</summary>
/// <param name="Force">The force.</param>
/// <param name="At">The load it was stated at; null: the rated load.</param>
public sealed record ForceValue(Force Force, Mass? At) : AttributeValue
{
    private const string Parts = " at ";

    public override string Text => At is { } load ? $"{Force}{Parts}{load}" : Force.ToString();

    /// <summary>Reads <c>260 N</c> or <c>260 N at 500 kg</c>.</summary>
    public static Checked<AttributeValue> Read(string text)
    {
        var halves = text.Split(Parts, 2);
        var force = Force.Read(halves[0]);
        if (!force.Ok)
            return new Refusal(force.Fault!);
        if (force.Value.Newtons <= 0)
            return new Refusal($"\"{text}\" should be over 0");
        if (halves.Length == 1)
            return new ForceValue(force.Value, null);
        var load = Mass.Read(halves[1]);
        return !load.Ok ? new Refusal(load.Fault!)
            : load.Value.Kilograms <= 0 ? new Refusal($"\"{text}\" should name a load over 0")
            : new ForceValue(force.Value, load.Value);
    }
}

/// <summary>A moment over 0.</summary>
public sealed record MomentValue(Moment Moment) : AttributeValue
{
    public override string Text => Moment.ToString();
}

/// <summary>A whole number, 1 and over.</summary>
public sealed record WholeValue(int Whole) : AttributeValue
{
    public override string Text => Whole.ToString();
}

/// <summary>A number over 0.</summary>
public sealed record NumberValue(decimal Number) : AttributeValue
{
    public override string Text => QuantityText.Number(Number);
}

/// <summary>Free text, or one of the words of a choice.</summary>
public sealed record TextValue(string Value) : AttributeValue
{
    public override string Text => Value;
}

/// <summary>Yes or no.</summary>
public sealed record FlagValue(bool Value) : AttributeValue
{
    public override string Text => Value ? "true" : "false";
}

/// <summary>A kit's roster, written <c>8 members, 9 to 12 links</c>; either half may be left out.</summary>
/// <param name="Members">How many members belong to it; null when not stated.</param>
/// <param name="LeastLinks">Fewest links a leg's chain may have; null when not stated.</param>
/// <param name="MostLinks">Most links a leg's chain may have; null when not stated.</param>
public sealed partial record RosterValue(int? Members, int? LeastLinks, int? MostLinks) : AttributeValue
{
    public override string Text =>
        string.Join(
            ", ",
            new[]
            {
                Members is { } m ? $"{m} members" : null,
                LeastLinks is { } least ? $"{least} to {MostLinks} links" : null,
            }.OfType<string>()
        );

    /// <summary>Reads a roster; null when the text is none.</summary>
    public static RosterValue? Read(string text)
    {
        var match = Pattern().Match(text.Trim());
        if (!match.Success || match.Length == 0)
            return null;
        var (members, least, most) = (Number("members"), Number("least"), Number("most"));
        return members == 0 || least == 0 || least > most ? null : new(members, least, most);

        int? Number(string group) => match.Groups[group].Success ? int.Parse(match.Groups[group].Value) : null;
    }

    [System.Text.RegularExpressions.GeneratedRegex(
        @"^(?:(?<members>\d{1,4}) members?)?(?:(?:^|, ?)(?<least>\d{1,4}) to (?<most>\d{1,4}) links)?$"
    )]
    private static partial System.Text.RegularExpressions.Regex Pattern();
}
