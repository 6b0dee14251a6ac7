using EvenThimble.Core.Colour;

namespace EvenThimble.Core.Threads;

/// <summary>A thread that a search found.</summary>
/// <param name="Thread">The thread.</param>
/// <param name="Difference">CIEDE2000 to the wanted colour, where one was asked for.</param>
public sealed record ThreadMatch(SewingThread Thread, double? Difference);

/// <summary>Finds threads by number, by name or by look.</summary>
public static class ThreadSearch
{
    /// <summary>
    /// Threads for what was typed. A colour such as <c>#2f4b7c</c> sorts all by look; anything else must occur in number, name or maker,
    /// with numbers that start so first.
    /// </summary>
    public static IReadOnlyList<ThreadMatch> Find(IReadOnlyList<SewingThread> threads, string query, int most)
    {
        var text = query.Trim();
        if (text.Length == 0) return [.. threads.Take(most).Select(t => new ThreadMatch(t, null))];
        if (text.StartsWith('#') && Rgb.TryParse(text, out var colour)) return ByLook(threads, colour, most);
        var words = text.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        return
        [
            .. threads.Where(t => words.All(w => Mentions(t, w)))
                .OrderBy(t => t.Number.StartsWith(text, StringComparison.OrdinalIgnoreCase) ? 0 : t.Name.StartsWith(text, StringComparison.OrdinalIgnoreCase) ? 1 : 2)
                .Take(most)
                .Select(t => new ThreadMatch(t, null)),
        ];
    }

    /// <summary>The threads that look most like a colour, nearest first.</summary>
    public static IReadOnlyList<ThreadMatch> ByLook(IReadOnlyList<SewingThread> threads, Rgb colour, int most)
    {
        var wanted = Lab.From(colour);
        return
        [
            .. threads.Select(t => new ThreadMatch(t, ColourDifference.Ciede2000(wanted, Lab.From(t.Colour))))
                .OrderBy(m => m.Difference)
                .Take(most),
        ];
    }

    private static bool Mentions(SewingThread thread, string word) =>
        thread.Number.Contains(word, StringComparison.OrdinalIgnoreCase)
        || thread.Name.Contains(word, StringComparison.OrdinalIgnoreCase)
        || thread.Maker.Contains(word, StringComparison.OrdinalIgnoreCase);
}
