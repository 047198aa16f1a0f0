using System.Globalization;
using FsCheck.Xunit;
using Keralith.Core.Quantities;
using Xunit;

namespace Keralith.Core.Tests;

public class QuantityTests
{
    [Theory]
    [InlineData("3/8 in", "9.525")]
    [InlineData("1-1/4 in", "31.75")]
    [InlineData("1 1/4\"", "31.75")]
    [InlineData("1 1/4 in", "31.75")]
    [InlineData("0.375in", "9.525")]
    [InlineData(".375 in", "9.525")]
    [InlineData("1¼ in", "31.75")]
    [InlineData("⅜″", "9.525")]
    [InlineData("9.5 mm", "9.5")]
    [InlineData("9.5MM", "9.5")]
    [InlineData("2.5 cm", "25")]
    [InlineData("1.2 m", "1200")]
    [InlineData("2 ft", "609.6")]
    [InlineData("5 ft 3 in", "1600.2")]
    [InlineData("5' 3-1/2\"", "1612.9")]
    [InlineData("  7/8 inch ", "22.225")]
    public void A_length_is_read_in_every_notation_of_the_trade(string text, string millimetres) =>
        Assert.Equal(decimal.Parse(millimetres), Length.Parse(text).Millimetres);

    [Theory]
    [InlineData("", "nothing was written")]
    [InlineData("41,5 mm", "comma")]
    [InlineData("1,200 mm", "comma")]
    [InlineData("41.5", "no unit")]
    [InlineData("3 ton", "not a unit of length")]
    [InlineData("three in", "does not begin with a figure")]
    [InlineData("3/0 in", "zero")]
    [InlineData("1 2 in", "side by side")]
    [InlineData("1-1/ in", "fraction")]
    [InlineData("1e3 mm", "not a unit")]
    [InlineData("NaN mm", "does not begin with a figure")]
    [InlineData("5 M", "not a unit")]
    [InlineData("1. mm", "not a figure")]
    [InlineData("99999999999999999999 mm", "too many digits")]
    [InlineData("999999999999 m", "longer than anything")]
    [InlineData("5 ft 13 in", "not a unit")]
    public void A_length_that_is_none_is_refused_with_words(string text, string expected) =>
        Assert.Contains(expected, Length.Read(text).Fault, StringComparison.Ordinal);

    [Theory]
    [InlineData("8000 lb", "3628.73896")]
    [InlineData("3.5 t", "3500")]
    [InlineData("2 short ton", "1814.36948")]
    [InlineData("4-3/4 short tons", "4309.127515")]
    [InlineData("1200 kg", "1200")]
    [InlineData("20 800 lb", "9434.721296")]
    [InlineData("20\u202F800 lb", "9434.721296")]
    [InlineData("1 250 000 kg", "1250000")]
    [InlineData("1 250.5 kg", "1250.5")]
    [InlineData("-1 250 kg", "-1250")]
    [InlineData("4 3/4 t", "4750")]
    public void A_rated_load_is_read_as_marked(string text, string kilograms) =>
        Assert.Equal(decimal.Parse(kilograms), Mass.Parse(text).Kilograms);

    [Theory]
    [InlineData("20 80 lb")]
    [InlineData("2080 000 lb")]
    [InlineData("0 800 lb")]
    [InlineData("1 2500 lb")]
    public void Thousands_stand_apart_in_threes_or_not_at_all(string text) =>
        Assert.Contains("side by side", Mass.Read(text).Fault, StringComparison.Ordinal);

    /// <summary>A point left out of 1.125 in would be read as a link that never wears.</summary>
    [Theory]
    [InlineData("1 125 in")]
    [InlineData("1 125 mm")]
    public void A_length_never_has_its_thousands_apart(string text) =>
        Assert.Contains("side by side", Length.Read(text).Fault, StringComparison.Ordinal);

    [Theory]
    [InlineData("3 ton")]
    [InlineData("3 tons")]
    [InlineData("3 T")]
    [InlineData("3TON")]
    public void A_ton_that_may_be_either_is_refused_and_says_what_to_write(string text)
    {
        var fault = Mass.Read(text).Fault;
        Assert.Contains("short ton", fault, StringComparison.Ordinal);
        Assert.Contains("1000 kg", fault, StringComparison.Ordinal);
    }

    [Fact]
    public void Angles_temperatures_and_forces_are_read_with_their_units()
    {
        Assert.Equal(45m, Angle.Read("45 deg").Value.Degrees);
        Assert.Equal(9.5m, Angle.Read("9.5°").Value.Degrees);
        Assert.False(Angle.Read("45").Ok);
        Assert.Equal(new Temperature(-40, TemperatureScale.Celsius), Temperature.Read("-40 C").Value);
        Assert.Equal(new Temperature(400, TemperatureScale.Fahrenheit), Temperature.Read("400 °F").Value);
        Assert.False(Temperature.Read("-300 C").Ok);
        Assert.Equal(260m, Force.Read("260 N").Value.Newtons);
        Assert.Equal(257.996853685109m, Force.Read("58 lbf").Value.Newtons);
    }

    [Theory]
    [InlineData("3/8 in")]
    [InlineData("1-1/4 in")]
    [InlineData("19/64 in")]
    [InlineData("1.444 in")]
    [InlineData("9.5 mm")]
    [InlineData("2 in")]
    public void A_length_is_written_as_it_was_read(string text) => Assert.Equal(text, Length.Parse(text).ToString());

    [Theory]
    [InlineData("8800 lb")]
    [InlineData("4.75 short ton")]
    [InlineData("3.15 t")]
    public void A_mass_is_written_as_it_was_read(string text) => Assert.Equal(text, Mass.Parse(text).ToString());

    [Fact]
    public void Lengths_are_equal_whatever_unit_they_were_written_in()
    {
        Assert.Equal(Length.Parse("1 in"), Length.Parse("25.4 mm"));
        Assert.True(Length.Parse("1 in").IsInchNamed);
        Assert.False(Length.Parse("25.4 mm").IsInchNamed);
    }

    [Fact]
    public void A_rated_load_shown_rounded_is_never_overstated() =>
        Assert.Equal(
            "7 039 lb",
            QuantityFormat.Rounded(Mass.FromPounds(7039.99m), MassUnit.Pound).Replace('\u202F', ' ')
        );

    [Property]
    public bool Sixty_fourths_of_an_inch_survive_writing_and_reading(ushort sixtyFourths)
    {
        var length = Length.FromInches(sixtyFourths / 64m);
        return Length.Parse(length.ToString()).Millimetres == length.Millimetres;
    }

    [Property]
    public bool Hundredths_of_a_millimetre_survive_writing_and_reading(int hundredths)
    {
        var length = Length.FromMillimetres(Math.Abs((long)hundredths) / 100m);
        return Length.Parse(length.ToString()).Millimetres == length.Millimetres;
    }

    [Theory]
    [InlineData("0", "0")]
    [InlineData("-0.0", "0")]
    [InlineData("12.500", "12.5")]
    [InlineData("1200", "1200")]
    [InlineData("-0.00001", "-0.00001")]
    [InlineData("0.000010", "0.00001")]
    [InlineData("0.00009999", "0.00009999")]
    [InlineData("0.0001", "0.0001")]
    [InlineData("0.00010001", "0.00010001")]
    [InlineData("0.0000000000000000000000000001", "0.0000000000000000000000000001")]
    [InlineData("18446744073709551615", "18446744073709551615")]
    [InlineData("18446744073709551616", "18446744073709551616")]
    [InlineData("-1844674407370955161.50", "-1844674407370955161.5")]
    [InlineData("-1844674407370955161.60", "-1844674407370955161.6")]
    [InlineData("-1844674407370955161.61", "-1844674407370955161.61")]
    [InlineData("79228162514264337593543950335", "79228162514264337593543950335")]
    [InlineData("7.9228162514264337593543950335", "7.9228162514264337593543950335")]
    public void A_number_is_written_without_trailing_zeros_and_without_an_exponent(string given, string written) =>
        Assert.Equal(written, QuantityFormat.Number(decimal.Parse(given, CultureInfo.InvariantCulture)));

    [Property]
    public bool A_number_written_is_the_number_read_back(int low, int middle, byte scale, bool negative)
    {
        var number = new decimal(low, middle, 0, negative, (byte)(scale % 29));
        var written = QuantityFormat.Number(number);
        return !written.Contains('E', StringComparison.Ordinal)
            && !(written.Contains('.', StringComparison.Ordinal) && written.EndsWith('0'))
            && decimal.Parse(written, CultureInfo.InvariantCulture) == number;
    }

    [Theory]
    [InlineData(".5 in", "12.7")]
    [InlineData("0.5 in", "12.7")]
    [InlineData("-.5 in", "-12.7")]
    [InlineData("+00.50 in", "12.7")]
    public void A_point_may_stand_first(string written, string millimetres) =>
        Assert.Equal(decimal.Parse(millimetres, CultureInfo.InvariantCulture), Length.Parse(written).Millimetres);

    [Property]
    public bool No_text_makes_a_reader_throw(string? text)
    {
        foreach (
            var fault in new[]
            {
                Length.Read(text).Fault,
                Mass.Read(text).Fault,
                Angle.Read(text).Fault,
                Temperature.Read(text).Fault,
                Force.Read(text).Fault,
            }
        )
        {
            if (fault is { Length: 0 })
                return false;
        }

        return true;
    }
}
