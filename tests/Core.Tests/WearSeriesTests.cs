using Keralith.Core.Formats;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Wear;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>The measures of a piece over time, as its records have them.</summary>
public class WearSeriesTests
{
    private static readonly DateTimeOffset Bought = new(2023, 1, 2, 9, 0, 0, TimeSpan.Zero);

    private static readonly Dictionary<BaselineKey, (Length Figure, DateTimeOffset Since)> Throat = new()
    {
        [new("hook", "hook.throat")] = (Length.Parse("40 mm"), Bought),
    };

    [Fact]
    public void A_throat_that_opens_is_one_series_against_the_strictest_limit_and_asks_for_an_earlier_look()
    {
        // Half a millimetre a year on 40 mm, limit 5 %: 42 mm.
        var series = WearSeries.Of(
            Case(null),
            Throat,
            [Record(2024, "40.5 mm"), Record(2025, "41 mm"), Record(2026, "41.5 mm")]
        );
        var throat = Assert.Single(series);
        Assert.Equal(("hook", "hook.throat", 3), (throat.Part, throat.Criterion.Id, throat.Points.Count));
        Assert.Equal(42m, throat.Governing.Limit);
        var wearing = Assert.IsType<Wearing>(throat.Forecast);
        Assert.InRange(wearing.DaysToLimit, 363, 367);
        Assert.Equal(wearing.InspectBy, WearSeries.Earlier(series, new(2027, 1, 2))!.Value.Day);
        Assert.Null(WearSeries.Earlier(series, wearing.InspectBy));
    }

    [Fact]
    public void Figures_of_the_part_that_was_there_before_are_not_this_parts()
    {
        var replaced = new Dictionary<BaselineKey, (Length Figure, DateTimeOffset Since)>
        {
            [new("hook", "hook.throat")] = (Length.Parse("40 mm"), new(2025, 6, 1, 0, 0, 0, TimeSpan.Zero)),
        };
        var throat = Assert.Single(
            WearSeries.Of(
                Case(null),
                replaced,
                [Record(2024, "41.5 mm"), Record(2025, "41.9 mm"), Record(2026, "40.1 mm")]
            )
        );
        Assert.Equal([new WearPoint(new(2026, 1, 2), 40.1m)], throat.Points);
        Assert.Equal(new NotEnoughRecords(1), throat.Forecast);
    }

    [Fact]
    public void Without_a_figure_when_new_there_is_nothing_to_draw_against() =>
        Assert.Empty(
            WearSeries.Of(
                Case(null),
                new Dictionary<BaselineKey, (Length, DateTimeOffset)>(),
                [Record(2024, "40.5 mm")]
            )
        );

    [Fact]
    public void Of_several_readings_in_one_record_the_worst_is_the_point()
    {
        var twice = CaseReader
            .Read(
                """
                {"format":"keralith.case/1","ruleBooks":["asme"],"gear":{"family":"hook"},"answers":[
                  {"criterion":"hook.throat","part":"hook","value":"40.9 mm","baseline":"40 mm","baselineBasis":"new"},
                  {"criterion":"hook.throat","part":"hook","value":"41.2 mm","baseline":"40 mm","baselineBasis":"new"},
                  {"criterion":"hook.throat","part":"hook","value":"40.8 mm","baseline":"40 mm","baselineBasis":"new"}]}
                """
            )
            .Value!;
        var throat = Assert.Single(
            WearSeries.Of(
                Case(null),
                Throat,
                [Record(2024, "40.5 mm"), new(new(2025, 1, 2), Bought.AddYears(2), twice)]
            )
        );
        Assert.Equal([40.5m, 41.2m], throat.Points.Select(p => p.Value));
    }

    private static WearRecord Record(int year, string throat) =>
        new(new(year, 1, 2), Bought.AddYears(year - 2023), Case(throat));

    private static Case Case(string? throat) =>
        CaseReader
            .Read(
                $$"""
                {"format":"keralith.case/1","ruleBooks":["asme"],"gear":{"family":"hook"},"answers":[{{(
                    throat is null
                        ? ""
                        : $$"""{"criterion":"hook.throat","part":"hook","value":"{{throat}}","baseline":"40 mm","baselineBasis":"new"}"""
                )}}]}
                """
            )
            .Value!;
}
