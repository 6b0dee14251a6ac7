using System.Globalization;
using System.Text.RegularExpressions;

namespace EvenThimble.Core.Threads;

/// <summary>What a thread is spun of.</summary>
public enum Fibre
{
    /// <summary>Nobody said.</summary>
    Unsaid,

    /// <summary>Viscose, shiny.</summary>
    Rayon,

    /// <summary>Polyester, shiny.</summary>
    Polyester,

    /// <summary>Cotton, matt.</summary>
    Cotton,

    /// <summary>With a strip of foil.</summary>
    Metallic,

    /// <summary>Silk.</summary>
    Silk,

    /// <summary>Wool or a mixture with it.</summary>
    Wool,

    /// <summary>Linen.</summary>
    Linen,

    /// <summary>Nylon.</summary>
    Nylon,
}

/// <summary>What sort of thread one is.</summary>
/// <param name="Fibre">What it is spun of.</param>
/// <param name="Weight">Its weight as the trade counts it: so many kilometres weigh a kilogram, so that more is finer. Null: not said.</param>
public sealed partial record ThreadMake(Fibre Fibre, int? Weight)
{
    /// <summary>Nothing is known of it.</summary>
    public static readonly ThreadMake Unknown = new(Fibre.Unsaid, null);

    // Threads of weights within this factor sew alike: 40 and 50 do, 40 and 60 or 30 do not.
    private const double AlikeFactor = 1.3;

    private const double UsualWeight = 40;
    private const int Finest = 200;

    private static readonly (string Beginning, Fibre Fibre)[] Words =
    [
        ("rayon", Fibre.Rayon), ("visco", Fibre.Rayon), ("poly", Fibre.Polyester), ("trilobal", Fibre.Polyester), ("cotton", Fibre.Cotton), ("metal", Fibre.Metallic), ("foil", Fibre.Metallic),
        ("lurex", Fibre.Metallic), ("silk", Fibre.Silk), ("wool", Fibre.Wool), ("linen", Fibre.Linen), ("flax", Fibre.Linen), ("nylon", Fibre.Nylon),
    ];

    /// <summary>Metres that weigh a gram; null where the weight is not said.</summary>
    public double? MetresPerGram => Weight;

    /// <summary>As people read it, such as "rayon 40"; empty where nothing is known.</summary>
    public string InWords => string.Join(' ', new[] { Fibre == Fibre.Unsaid ? string.Empty : Fibre.ToString().ToLowerInvariant(), Weight?.ToString(CultureInfo.InvariantCulture) ?? string.Empty }.Where(w => w.Length > 0));

    /// <summary>Metres on a cone of this make unless something else is said.</summary>
    public double UsualConeMetres => Fibre switch
    {
        Fibre.Metallic or Fibre.Wool or Fibre.Silk => 300,
        Fibre.Cotton or Fibre.Linen => 500,
        _ => 1_000,
    };

    /// <summary>What the name of a range tells, such as "Rayon 40", "Poly No. 60" or "cotton 30wt".</summary>
    public static ThreadMake Of(string range)
    {
        var text = range.ToLowerInvariant();
        var fibre = Words.Where(w => text.Contains(w.Beginning, StringComparison.Ordinal)).Select(w => w.Fibre).FirstOrDefault();
        var weight = Number().Matches(text).Select(m => int.Parse(m.Value, CultureInfo.InvariantCulture)).Where(w => w is >= 5 and <= Finest).Select(w => (int?)w).FirstOrDefault();
        return new(fibre, weight);
    }

    /// <summary>Whether a thread of another make can take its place: metallic for metallic, and of about the same weight. What nobody said is no hindrance.</summary>
    public bool SewsLike(ThreadMake other)
    {
        if (Fibre != Fibre.Unsaid && other.Fibre != Fibre.Unsaid && (Fibre == Fibre.Metallic) != (other.Fibre == Fibre.Metallic)) return false;
        if (Fibre == Fibre.Metallic || other.Fibre == Fibre.Metallic) return true;
        var (one, two) = ((double)(Weight ?? other.Weight ?? UsualWeight), (double)(other.Weight ?? Weight ?? UsualWeight));
        return Math.Max(one, two) <= AlikeFactor * Math.Min(one, two);
    }

    /// <summary>Whether both are spun of the same, as far as that is said.</summary>
    public bool IsSpunLike(ThreadMake other) => Fibre == Fibre.Unsaid || other.Fibre == Fibre.Unsaid || Fibre == other.Fibre;

    [GeneratedRegex(@"(?<![\d.,])\d{1,3}(?![\d])")]
    private static partial Regex Number();
}
