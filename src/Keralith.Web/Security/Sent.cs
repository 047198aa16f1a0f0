using System.Security.Cryptography;
using System.Text;

namespace Keralith.Web.Security;

/// <summary>
/// A digest of what a request sends: where to and all of its content. An id that a client made belongs to this and
/// nothing else.
/// </summary>
internal static class Sent
{
    private const string BodyItem = "keralith.body";

    /// <summary>What no record depends on, and what is secret.</summary>
    private static readonly string[] Aside =
    [
        "__RequestVerificationToken",
        "Submission",
        "password",
        "witnessPassword",
    ];

    /// <summary>Keeps the body a program sent, so that its digest can be made.</summary>
    public static void Keep(HttpContext context, ReadOnlyMemory<byte> body) =>
        context.Items[BodyItem] = SHA256.HashData(body.Span);

    /// <summary>The digest of a request whose form was read or whose body was kept.</summary>
    public static byte[] Digest(HttpContext context)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var request = context.Request;
        Add(hash, request.Method, request.Path.Value ?? string.Empty, request.QueryString.Value ?? string.Empty);
        if (request.HasFormContentType)
        {
            foreach (var (name, values) in request.Form.OrderBy(f => f.Key, StringComparer.Ordinal))
            {
                if (!Aside.Contains(name, StringComparer.OrdinalIgnoreCase))
                    Add(hash, [name, .. values.Select(v => v ?? string.Empty)]);
            }

            foreach (var file in request.Form.Files)
            {
                Add(hash, file.Name, file.FileName);
                using var content = file.OpenReadStream();
                hash.AppendData(SHA256.HashData(content));
            }
        }
        else if (context.Items.TryGetValue(BodyItem, out var body))
        {
            hash.AppendData((byte[])body!);
        }

        return hash.GetHashAndReset();
    }

    /// <summary>The id of a program's key: one for each person and key.</summary>
    public static Guid IdOf(string key, string person) =>
        Guid.TryParse(key, out var id)
            ? id
            : new(SHA256.HashData(Encoding.UTF8.GetBytes($"{person}\n{key}")).AsSpan(0, 16));

    /// <summary>Each text with its length before it, so that no two lists of texts look alike.</summary>
    private static void Add(IncrementalHash hash, params ReadOnlySpan<string> texts)
    {
        foreach (var text in texts)
        {
            var bytes = Encoding.UTF8.GetBytes(text);
            hash.AppendData(BitConverter.GetBytes(bytes.Length));
            hash.AppendData(bytes);
        }
    }
}
