using EvenThimble.Core.Colour;
using EvenThimble.Core.Threads;

namespace EvenThimble.Scenario;

/// <summary>Threads of the demo scenario, each the nearest of a made-up chart to a wanted look.</summary>
internal static class VolunteersThreads
{
    private static readonly IReadOnlyList<SewingThread> Rayon = MadeUpCharts.All[0].Threads;
    private static readonly IReadOnlyList<SewingThread> Polyester = MadeUpCharts.All[2].Threads;

    public static readonly SewingThread Night = Nearest(Rayon, 0x26385E);
    public static readonly SewingThread Slate = Nearest(Rayon, 0x6E8CA8);
    public static readonly SewingThread Chalk = Nearest(Rayon, 0xF1ECE0);
    public static readonly SewingThread Gold = Nearest(Rayon, 0xD9A520);
    public static readonly SewingThread Fern = Nearest(Rayon, 0x3F6B45);
    public static readonly SewingThread Moss = Nearest(Rayon, 0x7C9150);
    public static readonly SewingThread Rust = Nearest(Rayon, 0xB5532B);
    public static readonly SewingThread Honey = Nearest(Polyester, 0xE2B25C);
    public static readonly SewingThread Sand = Nearest(Polyester, 0xEBD7A8);
    public static readonly SewingThread Madder = Nearest(Polyester, 0x9E2F3A);
    public static readonly SewingThread Tarn = Nearest(Polyester, 0x2C7A8C);
    public static readonly SewingThread Dusk = Nearest(Polyester, 0x6A5A96);
    public static readonly SewingThread Heather = Nearest(Polyester, 0xA88BB8);
    public static readonly SewingThread Sky = Nearest(Polyester, 0x9CC3DA);
    public static readonly SewingThread Ink = Nearest(Polyester, 0x1B2436);
    public static readonly SewingThread Bark = Nearest(Polyester, 0x5B4433);

    private static SewingThread Nearest(IReadOnlyList<SewingThread> chart, int colour) => ThreadSearch.ByLook(chart, Rgb.FromInt(colour), 1)[0].Thread;
}
