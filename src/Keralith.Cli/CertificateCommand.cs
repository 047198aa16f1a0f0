using System.CommandLine;
using System.Security.Cryptography;
using Keralith.Core.Ledger;
using Keralith.Data;

namespace Keralith.Cli;

/// <summary>Checking what the works gave out: certificates, and heads of its ledger.</summary>
internal static class CertificateCommand
{
    /// <summary><c>check-certificate FILE</c>: needs no database and no network.</summary>
    public static Command Make()
    {
        var file = new Argument<FileInfo>("FILE") { Description = "A keralith.certificate/1 object." };
        var head = new Option<FileInfo?>("--head") { Description = "A head from elsewhere that it must be held by." };
        var key = new Option<FileInfo?>("--key")
        {
            Description =
                "The works' public key (PEM), from elsewhere; else the one in the certificate is taken, and said.",
        };
        var command = new Command(
            "check-certificate",
            "Checks a certificate's JSON alone: the record, its way to the signed head, the head's signature. Exit code 1 names what fails."
        )
        {
            file,
            head,
            key,
        };
        command.SetAction(
            async (parsed, cancel) =>
                await CheckAsync(parsed.GetValue(file)!, parsed.GetValue(head), parsed.GetValue(key), cancel)
        );
        return command;
    }

    private static async Task<int> CheckAsync(
        FileInfo file,
        FileInfo? headFile,
        FileInfo? keyFile,
        CancellationToken cancel
    )
    {
        TreeHead? head = null;
        if (headFile is not null)
        {
            var read = TreeHead.Read(await TextAsync(headFile, cancel));
            if (!read.Ok)
                throw new UsageException(read.Fault!);
            head = read.Value;
        }

        var pem = keyFile is null ? null : await TextAsync(keyFile, cancel);
        var steps = CertificateDocument.Check(await TextAsync(file, cancel), head, pem);
        foreach (var step in steps)
            Console.WriteLine(step.Fault is null ? $"yes  {step.What}" : $"NO   {step.What}: {step.Fault}");
        if (keyFile is null)
            Console.WriteLine("     The key is the certificate's own: compare its fingerprint with the works'.");
        return steps.All(s => s.Fault is null) ? 0 : 1;
    }

    /// <summary>Whether a ledger meets a head kept outside; says what it has against it.</summary>
    public static async Task<int> MeetAsync(Database database, FileInfo file)
    {
        var read = TreeHead.Read(await TextAsync(file, CancellationToken.None));
        if (!read.Ok)
            throw new UsageException(read.Fault!);
        var store = new TreeHeadStore(database);
        var known = (await store.KeysAsync(CancellationToken.None)).FirstOrDefault(k =>
            k.Fingerprint == read.Value.Key
        );
        if (known is null)
        {
            Console.WriteLine("The head is signed with a key this works never had.");
            return 1;
        }

        using var key = ECDsa.Create();
        key.ImportFromPem(known.PublicPem);
        var against = read.Value.Against(await store.LeavesAsync(long.MaxValue, CancellationToken.None), key);
        Console.WriteLine(
            against is null
                ? $"The head is met: its {read.Value.Size} entries stand as they were."
                : $"The head is not met: {against}."
        );
        return against is null ? 0 : 1;
    }

    private static async Task<string> TextAsync(FileInfo file, CancellationToken cancel) =>
        file.Exists
            ? await File.ReadAllTextAsync(file.FullName, cancel)
            : throw new UsageException($"There is no file {file.Name}.");
}
