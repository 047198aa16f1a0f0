using Keralith.Web.Printing;

namespace Keralith.Web.Pages.Labels;

/// <summary>What the stand-in printer made.</summary>
public sealed class PrinterModel(Here here) : YardPage(here)
{
    public IReadOnlyList<(string Name, DateTime At)> Jobs { get; private set; } = [];

    public void OnGet() => Jobs = LabelPrinter.Printed();
}
