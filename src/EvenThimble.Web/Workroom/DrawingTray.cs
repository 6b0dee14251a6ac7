using System.Collections.Concurrent;
using System.Security.Cryptography;
using EvenThimble.Core.Files.Drawing;

namespace EvenThimble.Web.Workroom;

/// <summary>Vector drawings that are being brought in, until the user has said what their shapes become. Only the last few are kept.</summary>
public sealed class DrawingTray
{
    private const int Most = 8;
    private readonly ConcurrentQueue<(string Token, string Name, SvgDrawing Drawing)> _laid = new();

    /// <summary>Lays a drawing down; returns by what it is taken up again.</summary>
    public string Lay(string name, SvgDrawing drawing)
    {
        var token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(12));
        _laid.Enqueue((token, name, drawing));
        while (_laid.Count > Most) _laid.TryDequeue(out _);
        return token;
    }

    /// <summary>The drawing of a token, or null when it has been laid too long ago.</summary>
    public (string Name, SvgDrawing Drawing)? Find(string? token) =>
        _laid.Where(l => l.Token == token).Select(l => ((string, SvgDrawing)?)(l.Name, l.Drawing)).FirstOrDefault();
}
