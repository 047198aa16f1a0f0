using System.Globalization;
using BenchmarkDotNet.Reports;

namespace Keralith.Bench;

/// <summary>Says what the benchmarks came to in the words of docs/performance.md, and whether the targets are met.</summary>
internal static class Report
{
    private const double FindingsASecond = 300_000;
    private const double CasesASecond = 20_000;
    private const double MicrosecondsALift = 50;

    /// <summary>Prints the figures.</summary>
    /// <returns>0 when all targets are met, else 1.</returns>
    public static int Print(Summary summary)
    {
        var rows = summary
            .Reports.Where(r => r.ResultStatistics is not null)
            .ToDictionary(r => r.BenchmarkCase.Descriptor.WorkloadMethod.Name);
        if (rows.Count < 4)
        {
            Console.Error.WriteLine("A benchmark did not run; --log shows why.");
            return 1;
        }

        var findings = new JudgementBenchmarks().FindingsOfACompleteCase;
        var floor = Nanoseconds(rows["JsonAlone"]);
        var complete = Nanoseconds(rows["CompleteCase"]) / findings;
        var line = Nanoseconds(rows["Lines"]);
        Console.WriteLine(
            $"{Environment.ProcessorCount} cores, {summary.HostEnvironmentInfo.Cpu.Value?.ProcessorName?.Trim()}, .NET {Environment.Version}, one core used"
        );
        Console.WriteLine();
        Say(
            $"findings judged a second",
            1e9 / complete,
            FindingsASecond,
            $"{complete:0} ns and {Bytes(rows["CompleteCase"]) / findings:0} bytes a finding ({findings} findings a case, two books)"
        );
        Say(
            $"four-answer cases a second, JSON in and out",
            1e9 / line,
            CasesASecond,
            $"{line / 1000:0.0} us and {Bytes(rows["Lines"]):0} bytes a case; {line / floor:0.0} x parsing and writing the same JSON alone ({floor / 1000:0.0} us)"
        );
        var lift = Nanoseconds(rows["FourLegsToPoints"]) / 1000;
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{lift, 12:0.0}  microseconds an arrangement of four legs to known points (target under {MicrosecondsALift}: {(lift < MicrosecondsALift ? "met" : "NOT met")})\n              {Bytes(rows["FourLegsToPoints"]):0} bytes"
            )
        );
        return lift < MicrosecondsALift && 1e9 / complete >= FindingsASecond && 1e9 / line >= CasesASecond ? 0 : 1;
    }

    private static void Say(string what, double figure, double target, string more) =>
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{figure, 12:#,0}  {what} (target {target:#,0}: {(figure >= target ? "met" : "NOT met")})\n              {more}"
            )
        );

    private static double Nanoseconds(BenchmarkReport report) => report.ResultStatistics!.Mean;

    private static double Bytes(BenchmarkReport report) =>
        report.GcStats.GetBytesAllocatedPerOperation(report.BenchmarkCase) ?? 0;
}
