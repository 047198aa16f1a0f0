using Keralith.Core.Formats;
using Keralith.Web.Security;

namespace Keralith.Web.Api;

/// <summary>What every part of the interface does with a body and with faults.</summary>
internal static class ApiBody
{
    public const int MostBytes = 1024 * 1024;

    /// <summary>The body, or null when it is too large; the refusal is sent then.</summary>
    public static async Task<ReadOnlyMemory<byte>?> ReadAsync(HttpContext context, CancellationToken cancel)
    {
        if (context.Request.ContentLength > MostBytes)
            return await TooLargeAsync(context);
        using var body = new MemoryStream();
        var buffer = new byte[16 * 1024];
        while (await context.Request.Body.ReadAsync(buffer, cancel) is > 0 and var count)
        {
            body.Write(buffer, 0, count);
            if (body.Length > MostBytes)
                return await TooLargeAsync(context);
        }

        var read = body.GetBuffer().AsMemory(0, (int)body.Length);
        Sent.Keep(context, read);
        return read;
    }

    public static Task RefuseAsync(HttpContext context, int status, IReadOnlyList<Fault> faults)
    {
        context.Response.StatusCode = status;
        return context.Response.WriteAsJsonAsync(new ApiErrors(faults), context.RequestAborted);
    }

    private static async Task<ReadOnlyMemory<byte>?> TooLargeAsync(HttpContext context)
    {
        await RefuseAsync(context, StatusCodes.Status413PayloadTooLarge, [new("$", $"larger than {MostBytes} bytes")]);
        return null;
    }
}
