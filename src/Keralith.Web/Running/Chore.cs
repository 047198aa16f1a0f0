namespace Keralith.Web.Running;

/// <summary>A piece of scheduled work, done by one node at a time.</summary>
/// <param name="Name">Its code, which never changes.</param>
/// <param name="Label">What it does, as administrators read it.</param>
/// <param name="Every">How long after it last began it is due again.</param>
/// <param name="Work">Does it, and says what came of it; told how to say how far it has come.</param>
public sealed record Chore(
    string Name,
    string Label,
    TimeSpan Every,
    Func<Func<string, Task>, CancellationToken, Task<string>> Work
);
