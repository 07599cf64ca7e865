// "Depot bell": the invented reference of the demo studio. Metres; x to the right, y up, z away from the camera.
// One warm lamp from the upper left; a brass bell on an iron hook before painted boards.
#version 3.7;
global_settings { assumed_gamma 1.0 max_trace_level 8
  radiosity { pretrace_start 0.08 pretrace_end 0.02 count 70 nearest_count 5 error_bound 0.9 recursion_limit 1 brightness 1.1 } }
#declare Seed = seed(41);
light_source { <-0.55, 0.62, -0.62> srgb <1, 0.74, 0.42>*2.5 fade_distance 0.75 fade_power 2 area_light <0.12,0,0>,<0,0.12,0>, 5, 5 adaptive 1 jitter }
light_source { <1.4, 0.3, -1.6> srgb <0.42, 0.52, 0.66>*0.42 area_light <1,0,0>,<0,1,0>, 4, 4 adaptive 1 jitter }
// ------------------------------------------------------------ boards: old green paint, worn through to grey wood and rust
#declare Paint = texture { pigment { granite scale 0.5 turbulence 0.2 color_map { [0 srgb <0.24,0.37,0.35>] [0.5 srgb <0.29,0.43,0.40>] [1 srgb <0.20,0.32,0.31>] } } normal { granite 0.18 scale <0.03,0.3,0.03> } finish { diffuse 0.75 ambient 0 specular 0.12 roughness 0.04 } }
 texture { pigment { wrinkles turbulence 0.6 octaves 5 scale <0.05,0.16,0.05> color_map { [0 srgbt <0.42,0.36,0.28,0>] [0.10 srgbt <0.46,0.40,0.32,0.05>] [0.13 srgbt <0.3,0.3,0.28,1>] [1 srgbt <0.3,0.3,0.28,1>] } } normal { granite 0.3 scale 0.02 } finish { diffuse 0.75 ambient 0 } }
 texture { pigment { bozo turbulence 0.8 octaves 5 scale <0.22,0.5,0.2> color_map { [0 srgbt <0.10,0.07,0.05,0.45>] [0.4 srgbt <0.10,0.08,0.06,0.85>] [0.7 srgbt <0.1,0.1,0.1,1>] [1 srgbt <0.1,0.1,0.1,1>] } } finish { diffuse 0.75 ambient 0 } }
#local i=-5; #while (i<6)
  superellipsoid { <0.08,0.08> scale <0.0485,0.7,0.02> translate <0.1*i+0.004*(rand(Seed)-0.5), 0, 0.02+0.004*rand(Seed)> texture { Paint translate <3*i,7*rand(Seed),i> } }
  #local k=0; #while (k<2) sphere { <0.1*i-0.02+0.04*rand(Seed), 0.27-0.50*k, 0.0>, 0.0045 texture { pigment { srgb <0.20,0.11,0.07> } finish { diffuse 0.7 ambient 0 } } } #local k=k+1; #end
  #local i=i+1; #end
box { <-1,-1,0.03>,<1,1,0.06> texture { pigment { srgb 0.03 } finish { diffuse 0.6 ambient 0 } } }
// ------------------------------------------------------------ bracket and hook
#declare Iron = texture { pigment { granite scale 0.1 color_map { [0 srgb <0.07,0.06,0.06>] [0.6 srgb <0.13,0.10,0.09>] [1 srgb <0.24,0.12,0.07>] } } normal { granite 0.35 scale 0.02 } finish { diffuse 0.7 ambient 0 specular 0.25 roughness 0.05 } }
union {
  box { <-0.028,0.205,-0.012>,<0.028,0.335,0.0> }
  cylinder { <0,0.30,0>,<0,0.30,-0.15>,0.010 }
  #local i=0; #while (i<20) #local a=radians(180-11*i); sphere { <0,0.272+0.028*cos(a+pi/2)*0-0.028*cos(a)*0+0.028*sin(a-pi/2)+0.0, -0.15+0.0+0.028*cos(a-pi/2)> ,0.0085 } #local i=i+1; #end
  cylinder { <0,0.215,0.0>,<0,0.295,-0.085>,0.007 }
  sphere { <-0.016,0.225,-0.013>,0.006 } sphere { <0.016,0.225,-0.013>,0.006 } sphere { <-0.016,0.318,-0.013>,0.006 } sphere { <0.016,0.318,-0.013>,0.006 }
  texture { Iron } }
// ------------------------------------------------------------ bell: brass, tarnished in its grooves, polished by hands at the rim
#declare Brass = texture { pigment { granite scale 0.4 turbulence 0.2 color_map { [0 srgb <0.62,0.42,0.14>] [0.5 srgb <0.74,0.54,0.21>] [1 srgb <0.50,0.33,0.12>] } } normal { granite 0.012 scale <0.3,0.02,0.3> } finish { diffuse 0.42 ambient 0 specular 0.75 roughness 0.014 metallic brilliance 2 reflection { 0.10, 0.28 metallic } } }
 texture { pigment { bozo turbulence 0.8 octaves 5 scale 0.09 color_map { [0 srgbt <0.10,0.16,0.12,0.25>] [0.22 srgbt <0.15,0.14,0.08,0.72>] [0.42 srgbt <0.2,0.15,0.08,1>] [1 srgbt <0.2,0.15,0.08,1>] } } finish { diffuse 0.6 ambient 0 } }
#declare Bell = union {
  lathe { cubic_spline 14,
    <-0.01,0.186>,<0.012,0.186>,<0.040,0.180>,<0.060,0.160>,<0.068,0.130>,<0.074,0.095>,<0.084,0.055>,<0.100,0.022>,<0.126,0.000>,<0.128,-0.008>,<0.118,-0.006>,<0.094,0.018>,<0.078,0.052>,<0.07,0.09> texture { Brass } }
  torus { 0.0725,0.0028 translate y*0.106 texture { Brass } } torus { 0.0775,0.0028 translate y*0.082 texture { Brass } }
  torus { 0.1265,0.0045 translate y*-0.003 texture { Brass } }
  cylinder { <0,0.18,0>,<0,0.202,0>,0.016 texture { Brass } } torus { 0.017,0.006 rotate x*90 translate y*0.214 texture { Brass } }
  sphere { <0,-0.022,0>,0.022 texture { Iron } } cylinder { <0,-0.02,0>,<0,0.14,0>,0.005 texture { Iron } }
  // a plaited cord from the clapper
  #local i=0; #while (i<46) sphere { <0.0035*cos(i*0.9),-0.04-0.0062*i,0.0035*sin(i*0.9)>,0.0062 texture { pigment { srgb <0.47,0.12,0.10>*(0.85+0.3*rand(Seed)) } normal { granite 0.4 scale 0.004 } finish { diffuse 0.85 ambient 0 } } } #local i=i+1; #end
  #local i=0; #while (i<60) #local a=2*pi*rand(Seed); #local r=0.006*rand(Seed); cylinder { <0,-0.325,0>,<r*cos(a)*2.2,-0.385-0.012*rand(Seed),r*sin(a)*2.2>,0.0014 texture { pigment { srgb <0.50,0.13,0.11>*(0.8+0.4*rand(Seed)) } finish { diffuse 0.85 ambient 0 } } } #local i=i+1; #end
}
object { Bell rotate y*20 rotate z*-2 translate <0,0.030,-0.150> }
// ------------------------------------------------------------ shelf edge below, with dust
box { <-1,-0.44,-0.16>,<1,-0.405,0.0> texture { pigment { wood turbulence 0.08 scale 0.03 rotate y*90 color_map { [0 srgb <0.26,0.18,0.12>] [1 srgb <0.38,0.27,0.18>] } } normal { granite 0.2 scale 0.05 } finish { diffuse 0.75 ambient 0 } } }
camera { perspective right x*3/4 up y location <0.06,0.02,-1.42> look_at <0.005,-0.005,0> angle 30
  #ifdef (Blur) aperture 0.014 focal_point <0,0.03,-0.24> blur_samples 8 variance 1/600 confidence 0.85 #end }
