using System.Globalization;
using Keralith.Core.Quantities;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>A figure is kept so that reading it back gives the same value, however it was written.</summary>
public class RoundTripTests
{
    private const int Figures = 10_000;

    private static readonly string[] Lengths = ["mm", "cm", "m", "in", "\"", "ft", "'", "inches", "feet"];

    private static readonly string[] Masses = ["kg", "g", "t", "lb", "short ton", "tonnes"];

    private static readonly string[] Forces = ["N", "kN", "lbf"];

    [Theory]
    [InlineData("1/3 in", "1/3 in")]
    [InlineData("4/3 in", "1-1/3 in")]
    [InlineData("-2/3 in", "-2/3 in")]
    [InlineData("1/3 ft", "1/3 ft")]
    [InlineData("2-5/7 ft", "2-5/7 ft")]
    [InlineData("5 ft 3-1/3 in", "63-1/3 in")]
    [InlineData("9/3 in", "3 in")]
    [InlineData("1/6 in", "1/6 in")]
    [InlineData("3/8 in", "3/8 in")]
    [InlineData("1/3 mm", "1/3 mm")]
    [InlineData("0.3333333333333333333333333333 in", "0.3333333333333333333333333333 in")]
    public void A_length_is_written_as_it_was_read(string text, string written) =>
        Assert.Equal(written, Length.Parse(text).ToString());

    [Fact]
    public void Three_thirds_of_an_inch_are_an_inch_and_a_third_of_a_foot_is_four() =>
        Assert.Equal((Length.Parse("4 in"), Length.Parse("25.4 mm")), (Length.Parse("1/3 ft"), Length.Parse("3/3 in")));

    [Fact]
    public void Every_length_reads_back_as_itself() =>
        Same(1, Lengths, t => Length.Read(t), l => l.ToString(), l => l.Millimetres);

    [Fact]
    public void Every_mass_reads_back_as_itself() =>
        Same(2, Masses, t => Mass.Read(t), m => m.ToString(), m => m.Kilograms);

    [Fact]
    public void Every_force_reads_back_as_itself() =>
        Same(3, Forces, t => Force.Read(t), f => f.ToString(), f => f.Newtons);

    [Fact]
    public void Every_temperature_and_angle_reads_back_as_itself()
    {
        Same(4, ["F", "C"], t => Temperature.Read(t), t => t.ToString(), t => t.Degrees);
        Same(5, ["deg", "degrees"], t => Angle.Read(t), a => a.ToString(), a => a.Degrees);
    }

    private static void Same<T>(
        int seed,
        string[] units,
        Func<string, Checked<T>> read,
        Func<T, string> write,
        Func<T, decimal> amount
    )
    {
        var chance = new Random(seed);
        var taken = 0;
        for (var i = 0; i < Figures; i++)
        {
            var text = $"{Number(chance, i)} {units[i % units.Length]}";
            var first = read(text);
            if (!first.Ok)
                continue;
            taken++;
            var again = read(write(first.Value));
            Assert.True(again.Ok, $"{text}: {again.Fault}");
            Assert.True(
                amount(first.Value) == amount(again.Value),
                $"{text} is {amount(first.Value)}, written {write(first.Value)} is {amount(again.Value)}"
            );
            Assert.Equal(write(first.Value), write(again.Value));
        }

        Assert.InRange(taken, Figures / 2, Figures);
    }

    /// <summary>A number in one of the ways people write them.</summary>
    private static string Number(Random chance, int i) =>
        (i % 7) switch
        {
            0 => chance.Next(0, 300).ToString(CultureInfo.InvariantCulture),
            1 => Math.Round((decimal)chance.NextDouble() * 300, chance.Next(0, 12))
                .ToString(CultureInfo.InvariantCulture),
            2 => $"{chance.Next(1, 64)}/{1 << chance.Next(1, 7)}",
            3 => $"{chance.Next(1, 99)}-{chance.Next(1, 64)}/{1 << chance.Next(1, 7)}",
            4 => $"{chance.Next(1, 500)}/{chance.Next(1, 9999)}",
            5 => $"{chance.Next(1, 99)} {chance.Next(1, 500)}/{chance.Next(1, 9999)}",
            _ => $".{chance.Next(1, 999_999)}",
        };
}
