using System.Text.Json;
using Keralith.Core.Formats;
using Keralith.Core.Judgement;

namespace Keralith.Cli;

/// <summary>Cases in, verdicts out.</summary>
internal static class JudgeCommand
{
    public static async Task<int> RunAsync(string[] args)
    {
        var lines = args.Contains("--lines");
        var names = args.Where(a => a != "--lines").ToList();
        if (names.Count > 1 || names.Any(n => n.StartsWith("--", StringComparison.Ordinal))) throw new UsageException("keralith judge takes one file, or - for standard input, and --lines.");
        var name = names.FirstOrDefault() ?? "-";
        if (name != "-" && !File.Exists(name)) throw new UsageException($"There is no file {name}.");
        using var reader = name == "-" ? new StreamReader(Console.OpenStandardInput()) : new StreamReader(name);
        await using var output = new StreamWriter(Console.OpenStandardOutput(), bufferSize: 1 << 16) { NewLine = "\n" };
        return lines ? await ManyAsync(reader, output) : await OneAsync(reader, output);
    }

    private static async Task<int> OneAsync(StreamReader reader, StreamWriter output)
    {
        var result = CaseReader.Read(await reader.ReadToEndAsync());
        if (result.Value is not { } @case)
        {
            foreach (var fault in result.Faults) await Console.Error.WriteLineAsync(fault.ToString());
            return 2;
        }

        await output.WriteLineAsync(VerdictWriter.Write(Judge.Of(@case), indented: true));
        return 0;
    }

    private static async Task<int> ManyAsync(StreamReader reader, StreamWriter output)
    {
        var exit = 0;
        while (await reader.ReadLineAsync() is { } line)
        {
            if (string.IsNullOrWhiteSpace(line)) continue;
            var result = CaseReader.Read(line);
            if (result.Value is { } @case)
            {
                await output.WriteLineAsync(VerdictWriter.Write(Judge.Of(@case)));
            }
            else
            {
                exit = 2;
                await output.WriteLineAsync(JsonSerializer.Serialize(new { error = string.Join("; ", result.Faults) }, LineOptions));
            }
        }

        return exit;
    }

    private static readonly JsonSerializerOptions LineOptions = new() { Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping };
}
