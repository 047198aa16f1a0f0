using FsCheck;
using FsCheck.Xunit;
using Keralith.Core.Gear;
using Keralith.Core.Wear;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>The wear forecast on series made for it: none, linear, stepped, noisy, the harmless way, too few.</summary>
public class WearTests
{
    private static readonly DateOnly Start = new(2025, 1, 1);

    /// <summary>A hook's throat of 40 mm that may open to 42 mm.</summary>
    private static readonly Figure Throat = new(42m, 40m, Comparator.AtOrAbove);

    /// <summary>A link of 20 mm that may waste to 18 mm.</summary>
    private static readonly Figure Link = new(18m, 20m, Comparator.AtOrBelow);

    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(2)]
    public void Fewer_than_three_records_say_nothing(int records) =>
        Assert.Equal(
            new NotEnoughRecords(records),
            WearForecast.Of(Series(records, day => 40 + (day / 1000m)), Throat)
        );

    [Fact]
    public void Three_figures_of_one_day_are_one_record() =>
        Assert.Equal(
            new NotEnoughRecords(1),
            WearForecast.Of([new(Start, 40), new(Start, 40.5m), new(Start, 41)], Throat)
        );

    [Fact]
    public void Figures_that_stand_still_show_no_wear() =>
        Assert.Equal(new NoWearSeen(), WearForecast.Of(Series(6, _ => 40.3m), Throat));

    [Fact]
    public void Figures_that_change_the_harmless_way_show_no_wear()
    {
        Assert.Equal(new NoWearSeen(), WearForecast.Of(Series(6, day => 41 - (day / 1000m)), Throat));
        Assert.Equal(new NoWearSeen(), WearForecast.Of(Series(6, day => 19 + (day / 1000m)), Link));
    }

    [Fact]
    public void Linear_growth_reaches_the_limit_when_arithmetic_says()
    {
        // A hundredth of a millimetre every ten days: 1 mm in 1000 days from 40 mm; after 500 days 1.5 mm are left, 1500 days.
        var wear = Assert.IsType<Wearing>(WearForecast.Of(Series(6, day => 40 + (day / 1000m)), Throat));
        Assert.Equal((40.5m, 0.001m, 1500), (wear.Fitted, wear.SlopePerDay, wear.DaysToLimit));
        Assert.Equal((1500, 1500), (wear.SoonestDays, wear.LatestDays));
        Assert.Equal(Start.AddDays(2000), wear.LimitDay);
        Assert.Equal(Start.AddDays(500 + 750), wear.InspectBy);
    }

    [Fact]
    public void Linear_loss_is_the_same_seen_from_the_other_side()
    {
        var wear = Assert.IsType<Wearing>(WearForecast.Of(Series(6, day => 20 - (day / 1000m)), Link));
        Assert.Equal((19.5m, -0.001m, 1500), (wear.Fitted, wear.SlopePerDay, wear.DaysToLimit));
    }

    [Fact]
    public void One_wild_reading_hardly_moves_the_forecast()
    {
        var series = Series(8, day => 40 + (day / 1000m)).ToArray();
        series[3] = series[3] with { Value = 44 };
        var wear = Assert.IsType<Wearing>(WearForecast.Of(series, Throat));
        Assert.InRange(wear.SlopePerDay, 0.0009m, 0.0011m);
        Assert.InRange(wear.DaysToLimit, 1200, 1400);
    }

    [Fact]
    public void Noise_widens_the_band_around_the_forecast()
    {
        decimal[] noise = [0.05m, -0.04m, 0.06m, -0.05m, 0.03m, -0.06m, 0.04m, -0.03m];
        var wear = Assert.IsType<Wearing>(
            WearForecast.Of(Series(8, day => 40 + (day / 1000m) + noise[day / 100]), Throat)
        );
        Assert.True(wear.GentleSlope < wear.SlopePerDay && wear.SlopePerDay < wear.SteepSlope);
        Assert.True(wear.SoonestDays < wear.DaysToLimit && wear.DaysToLimit < (wear.LatestDays ?? int.MaxValue));
        Assert.InRange(wear.SlopePerDay, 0.0007m, 0.0013m);
    }

    [Fact]
    public void A_step_after_long_rest_leaves_the_limit_near_and_the_gentle_edge_far()
    {
        // Overloaded once between two inspections: still before, still after.
        var wear = WearForecast.Of(Series(8, day => day < 400 ? 40 : 41.2m), Throat);
        var stepped = Assert.IsType<Wearing>(wear);
        Assert.Null(stepped.LatestDays);
        Assert.InRange(stepped.DaysToLimit, 1, 900);
    }

    [Fact]
    public void A_fitted_value_beyond_the_limit_leaves_no_days()
    {
        var wear = Assert.IsType<Wearing>(WearForecast.Of(Series(6, day => 41.8m + (day / 1000m)), Throat));
        Assert.Equal((0, wear.LastDay), (wear.DaysToLimit, wear.InspectBy));
    }

    [Fact]
    public void A_forecast_never_lengthens_an_interval()
    {
        var wear = Assert.IsType<Wearing>(WearForecast.Of(Series(6, day => 40 + (day / 1000m)), Throat));
        Assert.Null(wear.EarlierThan(wear.InspectBy));
        Assert.Null(wear.EarlierThan(wear.InspectBy.AddDays(-1)));
        Assert.Equal(wear.InspectBy, wear.EarlierThan(wear.InspectBy.AddDays(1)));
    }

    [Fact]
    public void Wear_too_slow_to_matter_looks_no_further_than_a_hundred_years() =>
        Assert.Equal(
            36_525,
            Assert.IsType<Wearing>(WearForecast.Of(Series(4, day => 40 + (day / 1_000_000_000m)), Throat)).DaysToLimit
        );

    [Theory]
    [InlineData(500, true)] // 2 mm at 0.002 mm a day: a thousand days; half of them seen, half ahead.
    [InlineData(334, true)]
    [InlineData(333, false)]
    public void A_day_is_named_no_further_ahead_than_twice_the_record(int last, bool named)
    {
        var wear = Assert.IsType<Wearing>(
            WearForecast.Of(
                [
                    new(Start, 40),
                    new(Start.AddDays(last / 2), 40 + (0.002m * (last / 2))),
                    new(Start.AddDays(last), 40 + (0.002m * last)),
                ],
                Throat
            )
        );
        Assert.Equal(1000 - last, wear.DaysToLimit);
        Assert.Equal(named, wear.NamesADay);
        if (!named)
            Assert.Equal(Start.AddDays(last + (2 * last)), wear.NotBefore);
    }

    [Theory]
    [InlineData("0.49", true)]
    [InlineData("0.5", false)]
    [InlineData("0.51", false)]
    [InlineData("0", true)]
    public void A_change_no_larger_than_the_instrument_can_tell_names_no_day(string uncertainty, bool named)
    {
        // Half a millimetre over 500 days, 0.5 mm left: 500 days ahead.
        var limit = new Figure(41m, 40m, Comparator.AtOrAbove);
        var wear = Assert.IsType<Wearing>(
            WearForecast.Of(Series(6, day => 40 + (day / 1000m)), limit, decimal.Parse(uncertainty))
        );
        Assert.Equal((500, named), (wear.DaysToLimit, wear.NamesADay));
    }

    [Fact]
    public void What_is_not_named_is_never_said_to_be_later_than_the_steepest_rates_tell()
    {
        var wear = new Wearing(Start, 40, 0.001m, 0, 0.01m, 900, 90, null) { SpanDays = 300 };
        Assert.False(wear.NamesADay);
        Assert.Equal(Start.AddDays(90), wear.NotBefore);
    }

    [Property]
    public bool The_order_of_the_records_never_matters(PositiveInt seed)
    {
        var series = Series(7, day => 40 + (day % 300 / 500m)).ToArray();
        var shuffled = series.ToArray();
        new Random(seed.Get).Shuffle(shuffled);
        return WearForecast.Of(series, Throat) == WearForecast.Of(shuffled, Throat);
    }

    private static IEnumerable<WearPoint> Series(int records, Func<int, decimal> value) =>
        Enumerable.Range(0, records).Select(i => new WearPoint(Start.AddDays(i * 100), value(i * 100)));
}
