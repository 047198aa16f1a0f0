using System.Buffers;
using System.Collections.Concurrent;
using System.IO.Pipelines;
using System.Threading.Channels;
using Keralith.Core.Formats;
using Keralith.Core.Judgement;

namespace Keralith.Cli;

/// <summary>Cases in, verdicts out.</summary>
internal static class JudgeCommand
{
    private const int ReadSize = 1 << 15;

    public static async Task<int> RunAsync(string[] args)
    {
        var lines = args.Contains("--lines");
        var names = args.Where(a => a != "--lines").ToList();
        if (names.Count > 1 || names.Any(n => n.StartsWith("--", StringComparison.Ordinal))) throw new UsageException("keralith judge takes one file, or - for standard input, and --lines.");
        var name = names.FirstOrDefault() ?? "-";
        if (name != "-" && !File.Exists(name)) throw new UsageException($"There is no file {name}.");
        await using var input = name == "-" ? Console.OpenStandardInput() : File.OpenRead(name);
        await using var output = Console.OpenStandardOutput();
        return lines ? await ManyAsync(PipeReader.Create(input, new StreamPipeReaderOptions(bufferSize: ReadSize)), output) : await OneAsync(input, output);
    }

    private static async Task<int> OneAsync(Stream input, Stream output)
    {
        using var reader = new StreamReader(input);
        var result = CaseReader.Read(await reader.ReadToEndAsync());
        if (result.Value is not { } @case)
        {
            foreach (var fault in result.Faults) await Console.Error.WriteLineAsync(fault.ToString());
            return 2;
        }

        var verdict = new ArrayBufferWriter<byte>();
        VerdictWriter.Write(verdict, Judge.Of(@case), indented: true);
        verdict.Write("\n"u8);
        await output.WriteAsync(verdict.WrittenMemory);
        return 0;
    }

    /// <summary>
    /// Lines are judged by as many workers as there are cores, a batch each; results are written in the order of the lines.
    /// What has arrived is judged and written before more is waited for: a program may feed lines one by one.
    /// </summary>
    private static async Task<int> ManyAsync(PipeReader input, Stream output)
    {
        var spare = new ConcurrentBag<ArrayBufferWriter<byte>>();
        var batches = Channel.CreateBounded<Task<(ArrayBufferWriter<byte> Written, bool AllCases)>>(Environment.ProcessorCount * 2);
        var writing = WriteAsync(batches.Reader, output, spare);
        ReadResult read;
        do
        {
            read = await input.ReadAsync();
            var rest = read.Buffer;
            var batch = new List<ReadOnlyMemory<byte>>();
            while (Next(ref rest, read.IsCompleted) is { } line)
            {
                if (Trimmed(line) is { Length: > 0 } text) batch.Add(text);
            }

            input.AdvanceTo(rest.Start, rest.End);
            if (batch.Count > 0) await batches.Writer.WriteAsync(Task.Run(() => Judged(batch, spare.TryTake(out var used) ? used : new())));
        }
        while (!read.IsCompleted);
        batches.Writer.Complete();
        return await writing ? 0 : 2;
    }

    private static (ArrayBufferWriter<byte> Written, bool AllCases) Judged(List<ReadOnlyMemory<byte>> batch, ArrayBufferWriter<byte> written)
    {
        var allCases = true;
        foreach (var line in batch) allCases &= CaseLines.Judge(line, written);
        return (written, allCases);
    }

    private static async Task<bool> WriteAsync(ChannelReader<Task<(ArrayBufferWriter<byte> Written, bool AllCases)>> batches, Stream output, ConcurrentBag<ArrayBufferWriter<byte>> spare)
    {
        var allCases = true;
        await foreach (var batch in batches.ReadAllAsync())
        {
            var (written, all) = await batch;
            allCases &= all;
            await output.WriteAsync(written.WrittenMemory);
            await output.FlushAsync();
            written.ResetWrittenCount();
            spare.Add(written);
        }

        return allCases;
    }

    private static ReadOnlySequence<byte>? Next(ref ReadOnlySequence<byte> rest, bool last)
    {
        if (rest.IsEmpty) return null;
        if (rest.PositionOf((byte)'\n') is { } end)
        {
            var line = rest.Slice(0, end);
            rest = rest.Slice(rest.GetPosition(1, end));
            return line;
        }

        if (!last) return null;
        var remainder = rest;
        rest = rest.Slice(rest.End);
        return remainder;
    }

    /// <summary>One line without a byte order mark and white space around it.</summary>
    private static ReadOnlyMemory<byte> Trimmed(ReadOnlySequence<byte> line)
    {
        ReadOnlyMemory<byte> memory = line.ToArray();
        if (memory.Span.StartsWith("\uFEFF"u8)) memory = memory[3..];
        return memory.Trim(" \t\r"u8);
    }
}
