using Keralith.Core.People;
using Keralith.Data.Exchange;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Register;

/// <summary>Takes a file to be imported.</summary>
[Authorize(Policy = nameof(Right.Register))]
[RequestSizeLimit(MostRequest)]
[RequestFormLimits(MultipartBodyLengthLimit = MostRequest)]
public sealed class ImportModel(Here here, ImportFiles files) : YardPage(here)
{
    private const long MostRequest = Table.MostBytes + (64 * 1024);

    public async Task<IActionResult> OnPostAsync(IFormFile? file)
    {
        if (file is null || file.Length == 0)
        {
            Refuse("Choose a file.");
            return Page();
        }

        using var bytes = new MemoryStream();
        await file.CopyToAsync(bytes, Cancel);
        var table = Table.Read(bytes.ToArray(), Cancel);
        if (!table.Ok)
        {
            Refuse(table.Fault!);
            return Page();
        }

        var kept = await files.KeepAsync(
            Path.GetFileName(file.FileName),
            bytes.ToArray(),
            RegisterImport.Mapping(table.Value),
            Here.Stamp(Submission),
            Cancel
        );
        return await AfterAsync(kept, $"/register/import/{Submission}", () => Task.CompletedTask);
    }
}
