using System.Text.Json;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Lifts;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>The worked cases: whatever they expect must stand in the verdict.</summary>
public class ExampleTests
{
    private static readonly JsonElement Cases = Read("judge.json");
    private static readonly JsonElement Lifts = Read("lift.json");
    private static readonly JsonElement LoadPaths = Read("lift-2.json");

    public static TheoryData<string> LiftNames =>
        new(Lifts.EnumerateArray().Select(c => c.GetProperty("name").GetString()!));

    public static TheoryData<string> LoadPathNames =>
        new(LoadPaths.EnumerateArray().Select(c => c.GetProperty("name").GetString()!));

    public static TheoryData<string> Names =>
        new(Cases.EnumerateArray().Where(IsKnown).Select(c => c.GetProperty("name").GetString()!));

    [Theory]
    [MemberData(nameof(Names))]
    public void A_worked_case_comes_out_as_expected(string name)
    {
        var example = Cases.EnumerateArray().Single(c => c.GetProperty("name").GetString() == name);
        var expected = example.GetProperty("expected");
        var result = CaseReader.Read(example.GetProperty("input"));
        if (expected.TryGetProperty("error", out _))
        {
            Assert.Null(result.Value);
            Assert.NotEmpty(result.Faults);
            return;
        }

        Assert.Empty(result.Faults);
        var verdict = JsonDocument.Parse(VerdictWriter.Write(Judge.Of(result.Value!))).RootElement;
        Contains("$", expected, verdict);
    }

    [Theory]
    [MemberData(nameof(LiftNames))]
    public void A_worked_lift_comes_out_as_expected(string name) => ComesOut(Lifts, name);

    [Theory]
    [MemberData(nameof(LoadPathNames))]
    public void A_worked_load_and_its_path_come_out_as_expected(string name) => ComesOut(LoadPaths, name);

    private static void ComesOut(JsonElement lifts, string name)
    {
        var example = lifts.EnumerateArray().Single(c => c.GetProperty("name").GetString() == name);
        var expected = example.GetProperty("expected");
        var result = LiftReader.Read(example.GetProperty("input"));
        if (expected.TryGetProperty("error", out _))
        {
            Assert.Null(result.Value);
            Assert.NotEmpty(result.Faults);
            return;
        }

        Assert.Empty(result.Faults);
        Contains("$", expected, JsonDocument.Parse(LiftWriter.Write(LiftJudge.Of(result.Value!))).RootElement);
    }

    [Fact]
    public void The_worked_lifts_are_all_run()
    {
        Assert.True(LiftNames.Count >= 87, $"only {LiftNames.Count} lifts");
        Assert.True(LoadPathNames.Count >= 40, $"only {LoadPathNames.Count} lifts of the second edition");
    }

    [Fact]
    public void The_worked_cases_of_the_known_families_are_all_run() =>
        Assert.True(Names.Count >= 81, $"only {Names.Count} cases");

    private static JsonElement Read(string name) =>
        JsonDocument
            .Parse(new StreamReader(typeof(ExampleTests).Assembly.GetManifestResourceStream(name)!).ReadToEnd())
            .RootElement;

    private static bool IsKnown(JsonElement example) =>
        GearFamilies.Find(example.GetProperty("input").GetProperty("gear").GetProperty("family").GetString()!)
            is not null;

    private static void Contains(string path, JsonElement expected, JsonElement actual)
    {
        switch (expected.ValueKind)
        {
            case JsonValueKind.Object:
                foreach (var property in expected.EnumerateObject())
                {
                    Assert.True(
                        actual.TryGetProperty(property.Name, out var found),
                        $"{path}.{property.Name} is not there"
                    );
                    Contains($"{path}.{property.Name}", property.Value, found);
                }

                break;
            case JsonValueKind.Array:
                // What the gear itself brings stands after the answers; a case may name the answers alone.
                var answered = actual
                    .EnumerateArray()
                    .Count(e => e.ValueKind != JsonValueKind.Object || !e.TryGetProperty("from", out _));
                Assert.Contains(expected.GetArrayLength(), new[] { answered, actual.GetArrayLength() });
                for (var i = 0; i < expected.GetArrayLength(); i++)
                    Contains($"{path}[{i}]", expected[i], actual[i]);
                break;
            case JsonValueKind.Number:
                Assert.True(
                    Math.Abs(expected.GetDecimal() - actual.GetDecimal()) <= 0.00005m,
                    $"{path}: expected {expected}, found {actual}"
                );
                break;
            default:
                Assert.True(expected.ToString() == actual.ToString(), $"{path}: expected {expected}, found {actual}");
                break;
        }
    }
}
