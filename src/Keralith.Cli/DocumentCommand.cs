using System.Buffers;
using System.Collections.Concurrent;
using System.IO.Pipelines;
using System.Threading.Channels;
using Keralith.Core.Formats;
using Keralith.Core.Lifts;

namespace Keralith.Cli;

/// <summary>Documents in, results out: cases for verdicts, lifts for what they may carry.</summary>
/// <param name="name">The command.</param>
/// <param name="one">Works out one document and writes its result; returns the faults, none when it was one.</param>
/// <param name="line">Works out one line and writes its result or its error; returns whether it was a document.</param>
internal sealed class DocumentCommand(
    string name,
    Func<ReadOnlyMemory<byte>, IBufferWriter<byte>, IReadOnlyList<Fault>> one,
    Func<ReadOnlyMemory<byte>, IBufferWriter<byte>, bool> line
)
{
    private const int ReadSize = 1 << 15;

    /// <summary>Cases in, verdicts out.</summary>
    public static DocumentCommand Judge { get; } =
        new(
            "judge",
            (utf8, output) =>
                Answer(CaseReader.Read(utf8), c =>
                    VerdictWriter.Write(output, Core.Judgement.Judge.Of(c), indented: true)
                ),
            CaseLines.Judge
        );

    /// <summary>Arrangements in, results out.</summary>
    public static DocumentCommand Lift { get; } =
        new(
            "lift",
            (utf8, output) =>
                Answer(LiftReader.Read(utf8), l => LiftWriter.Write(output, LiftJudge.Of(l), indented: true)),
            LiftLines.Judge
        );

    /// <summary>The command's name.</summary>
    public string Name => name;

    /// <param name="file">The file, or - for standard input.</param>
    /// <param name="lines">Whether each line is a document of its own.</param>
    public async Task<int> RunAsync(string file, bool lines)
    {
        if (file != "-" && !File.Exists(file))
            throw new UsageException($"There is no file {file}.");
        await using var input = file == "-" ? Console.OpenStandardInput() : File.OpenRead(file);
        await using var output = Console.OpenStandardOutput();
        return lines
            ? await ManyAsync(PipeReader.Create(input, new StreamPipeReaderOptions(bufferSize: ReadSize)), output)
            : await OneAsync(input, output);
    }

    private static IReadOnlyList<Fault> Answer<T>(ReadResult<T> read, Action<T> write)
        where T : class
    {
        if (read.Value is { } document)
            write(document);
        return read.Faults;
    }

    private async Task<int> OneAsync(Stream input, Stream output)
    {
        using var bytes = new MemoryStream();
        await input.CopyToAsync(bytes);
        var result = new ArrayBufferWriter<byte>();
        var faults = one(Trimmed(new(bytes.ToArray())), result);
        foreach (var fault in faults)
            await Console.Error.WriteLineAsync(fault.ToString());
        if (faults.Count > 0)
            return 2;
        result.Write("\n"u8);
        await output.WriteAsync(result.WrittenMemory);
        return 0;
    }

    /// <summary>
    /// Lines are judged by as many workers as there are cores, a batch each; results are written in the order of the lines.
    /// What has arrived is judged and written before more is waited for: a program may feed lines one by one.
    /// </summary>
    private async Task<int> ManyAsync(PipeReader input, Stream output)
    {
        var spare = new ConcurrentBag<ArrayBufferWriter<byte>>();
        var batches = Channel.CreateBounded<Task<(ArrayBufferWriter<byte> Written, bool AllRead)>>(
            Environment.ProcessorCount * 2
        );
        var writing = WriteAsync(batches.Reader, output, spare);
        System.IO.Pipelines.ReadResult read;
        do
        {
            read = await input.ReadAsync();
            var rest = read.Buffer;
            var batch = new List<ReadOnlyMemory<byte>>();
            while (Next(ref rest, read.IsCompleted) is { } next)
            {
                if (Trimmed(next) is { Length: > 0 } text)
                    batch.Add(text);
            }

            input.AdvanceTo(rest.Start, rest.End);
            if (batch.Count > 0)
                await batches.Writer.WriteAsync(
                    Task.Run(() => Judged(batch, spare.TryTake(out var used) ? used : new()))
                );
        } while (!read.IsCompleted);
        batches.Writer.Complete();
        return await writing ? 0 : 2;
    }

    private (ArrayBufferWriter<byte> Written, bool AllRead) Judged(
        List<ReadOnlyMemory<byte>> batch,
        ArrayBufferWriter<byte> written
    )
    {
        var allRead = true;
        foreach (var text in batch)
            allRead &= line(text, written);
        return (written, allRead);
    }

    private static async Task<bool> WriteAsync(
        ChannelReader<Task<(ArrayBufferWriter<byte> Written, bool AllRead)>> batches,
        Stream output,
        ConcurrentBag<ArrayBufferWriter<byte>> spare
    )
    {
        var allRead = true;
        await foreach (var batch in batches.ReadAllAsync())
        {
            var (written, all) = await batch;
            allRead &= all;
            await output.WriteAsync(written.WrittenMemory);
            await output.FlushAsync();
            written.ResetWrittenCount();
            spare.Add(written);
        }

        return allRead;
    }

    private static ReadOnlySequence<byte>? Next(ref ReadOnlySequence<byte> rest, bool last)
    {
        if (rest.IsEmpty)
            return null;
        if (rest.PositionOf((byte)'\n') is { } end)
        {
            var line = rest.Slice(0, end);
            rest = rest.Slice(rest.GetPosition(1, end));
            return line;
        }

        if (!last)
            return null;
        var remainder = rest;
        rest = rest.Slice(rest.End);
        return remainder;
    }

    /// <summary>One line without a byte order mark and white space around it.</summary>
    private static ReadOnlyMemory<byte> Trimmed(ReadOnlySequence<byte> line)
    {
        ReadOnlyMemory<byte> memory = line.ToArray();
        if (memory.Span.StartsWith("\uFEFF"u8))
            memory = memory[3..];
        return memory.Trim(" \t\r"u8);
    }
}
