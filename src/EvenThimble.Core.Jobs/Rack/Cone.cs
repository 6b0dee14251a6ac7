using System.Globalization;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Rack;

/// <summary>Cones of one thread on a rack: how many there are, what is left on all of them together, and where they stand.</summary>
/// <param name="Thread">The thread; it has a number.</param>
/// <param name="Make">What sort it is.</param>
/// <param name="Count">How many cones, begun ones too.</param>
/// <param name="FullMetres">Length on a full cone, m.</param>
/// <param name="LeftMetres">Length left on all of them together, m.</param>
public sealed record Cone(SewingThread Thread, ThreadMake Make, int Count, double FullMetres, double LeftMetres)
{
    /// <summary>No rack has more different threads than this.</summary>
    public const int MostOnARack = 20_000;

    /// <summary>No more cones of one thread than this.</summary>
    public const int MostCones = 1_000;

    /// <summary>No cone holds more than this, m.</summary>
    public const double LongestMetres = 50_000;

    /// <summary>Below this a cone is low unless something else is said, as a part of a full one.</summary>
    public const double UsualLowPart = 0.2;

    // Less than this cannot be threaded and sewn, m.
    private const double NothingLeft = 1;

    // A full cone holds a little more or less than its label says.
    private const double Overfull = 1.1;

    private const int LongestPlace = 40;

    /// <summary>Where it stands.</summary>
    public string Stands { get; init; } = string.Empty;

    /// <summary>It is low when no more than this is left, m.</summary>
    public double LowMetres { get; init; } = FullMetres * UsualLowPart;

    /// <summary>What a bare cone weighs, g; null: not weighed yet.</summary>
    public double? EmptyGrams { get; init; }

    /// <summary>What has been sewn from it so far, m.</summary>
    public double UsedMetres { get; init; }

    /// <summary>Full cones of a thread.</summary>
    public static Cone Full(ChartThread sold, int count = 1) => new(sold.Thread, sold.Make, count, sold.ConeMetres, count * sold.ConeMetres);

    /// <summary>Nothing to speak of is left.</summary>
    public bool IsEmpty => LeftMetres < NothingLeft;

    /// <summary>Little is left, or nothing.</summary>
    public bool IsLow => LeftMetres <= LowMetres || IsEmpty;

    /// <summary>Nothing was ever sewn from it.</summary>
    public bool IsNeverUsed => UsedMetres <= 0;

    /// <summary>What is left as a part of what full cones would hold.</summary>
    public double LeftPart => FullMetres <= 0 ? 0 : LeftMetres / (Count * FullMetres);

    /// <summary>The same with other cones of the thread beside them.</summary>
    public Cone With(Cone more) => this with { Count = Count + more.Count, LeftMetres = LeftMetres + more.LeftMetres, Stands = more.Stands.Length > 0 ? more.Stands : Stands, UsedMetres = UsedMetres + more.UsedMetres };

    /// <summary>The same after so much was sewn (m), or given back where it is less than 0.</summary>
    public Cone Less(double metres) => this with { LeftMetres = Math.Max(0, LeftMetres - metres), UsedMetres = Math.Max(0, UsedMetres + metres) };

    /// <summary>
    /// The same with what is left told anew: metres ("350", "350 m"), a part of what full cones hold ("40 %"), or the weight of all of them on a kitchen scale ("62 g"), from which the weight of the
    /// bare cones is taken.
    /// </summary>
    /// <exception cref="EditRefusedException">It is no amount, less than nothing, more than the cones hold, or the weights are not known.</exception>
    public Cone Told(string typed)
    {
        var text = typed.Trim().ToLowerInvariant();
        var (number, unit) = Split(text);
        if (number is not { } amount || !double.IsFinite(amount)) throw new EditRefusedException($"“{Titles.Clean(typed)}” is no amount of thread. Type metres such as 350, a part such as 40 %, or what the cone weighs, such as 62 g.");
        var metres = unit switch
        {
            "" or "m" => amount,
            "km" => amount * 1000,
            "%" => amount / 100 * Count * FullMetres,
            "g" => FromWeight(amount),
            _ => throw new EditRefusedException($"“{Titles.Clean(unit)}” is no unit for thread. Type m, % or g."),
        };
        if (metres < 0) throw new EditRefusedException(unit == "g" ? $"{Shown(amount)} g is less than {(Count == 1 ? "the bare cone weighs" : "the bare cones weigh")}." : "There cannot be less than nothing on a cone.");
        if (metres > Count * FullMetres * Overfull) throw new EditRefusedException($"{Shown(metres)} m is more than {(Count == 1 ? "a full cone holds" : $"{Count} full cones hold")} ({Shown(Count * FullMetres)} m). Say how long a full cone is first.");
        return this with { LeftMetres = metres };
    }

    /// <summary>Refuses what cannot be on a rack.</summary>
    /// <exception cref="EditRefusedException">With what is wrong, in a sentence.</exception>
    public void Check()
    {
        if (Thread.Number.Length == 0) throw new EditRefusedException("A cone needs the number of its thread.");
        if (Count is < 1 or > MostCones) throw new EditRefusedException($"There can be 1 to {MostCones:N0} cones of {Thread.Label}; {Count:N0} cannot be.");
        if (!(FullMetres is >= 1 and <= LongestMetres)) throw new EditRefusedException($"A full cone of {Thread.Label} holds 1 to {LongestMetres:N0} m; {Shown(FullMetres)} cannot be.");
        if (!(LeftMetres >= 0 && LeftMetres <= Count * FullMetres * Overfull)) throw new EditRefusedException($"On {(Count == 1 ? "a cone" : $"{Count} cones")} of {Thread.Label} can be 0 to {Shown(Count * FullMetres)} m; {Shown(LeftMetres)} cannot be.");
        if (!(LowMetres >= 0 && LowMetres <= LongestMetres)) throw new EditRefusedException("A cone is low from 0 m on or more.");
        if (EmptyGrams is { } grams && !(grams is >= 0 and <= 1_000)) throw new EditRefusedException("A bare cone weighs 0 to 1,000 g.");
        if (Stands.Length > LongestPlace || Stands != Titles.Clean(Stands)) throw new EditRefusedException($"Where a cone stands can be told in {LongestPlace} letters.");
    }

    private double FromWeight(double grams)
    {
        if (Make.MetresPerGram is not { } perGram) throw new EditRefusedException($"The weight of {Thread.Label} (40, 60 ...) is not known, so grams cannot be made metres. Type metres or a part.");
        if (EmptyGrams is not { } empty) throw new EditRefusedException("Say first what the bare cone weighs: under “bare cone”, in grams.");
        return (grams - (Count * empty)) * perGram;
    }

    private static (double? Number, string Unit) Split(string text)
    {
        var end = text.Length;
        while (end > 0 && !char.IsAsciiDigit(text[end - 1]) && text[end - 1] is not ('.' or ',')) end--;
        return (double.TryParse(text[..end].Trim().Replace(',', '.').Replace('−', '-'), NumberStyles.Float, CultureInfo.InvariantCulture, out var number) ? number : null, text[end..].Trim());
    }

    private static string Shown(double value) => LengthText.Decimals(value, 1);
}
