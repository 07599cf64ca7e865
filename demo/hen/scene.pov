// "Hen on the stove stool": the invented reference of the demo studio. Metres; x to the right, y up, z away from the camera.
// Two lights: a stove glowing low on the left, cool daylight through an open door behind on the right.
#version 3.7;
global_settings { assumed_gamma 1.0 max_trace_level 6
  radiosity { pretrace_start 0.08 pretrace_end 0.02 count 70 nearest_count 5 error_bound 0.9 recursion_limit 1 brightness 1.5 } }
#declare Seed = seed(17);
light_source { <-1.15, 0.30, -0.55> srgb <1, 0.52, 0.20>*2.1 fade_distance 0.75 fade_power 2 area_light <0,0.30,0>,<0,0,0.35>, 4, 4 adaptive 1 jitter }
light_source { <1.9, 2.1, 3.2> srgb <0.70, 0.84, 1.0>*2.6 area_light <1.1,0,0>,<0,1.6,0>, 5, 5 adaptive 1 jitter }
// ------------------------------------------------------------ room
#declare Lime = texture { pigment { granite scale 0.7 turbulence 0.3 color_map { [0 srgb <0.50,0.47,0.43>] [0.6 srgb <0.60,0.57,0.52>] [1 srgb <0.42,0.39,0.36>] } } normal { granite 0.25 scale 0.25 } finish { diffuse 0.8 ambient 0 } }
 texture { pigment { bozo turbulence 0.9 octaves 5 scale <0.5,0.9,0.5> color_map { [0 srgbt <0.10,0.08,0.07,0.72>] [0.5 srgbt <0.12,0.10,0.09,0.95>] [1 srgbt <0.6,0.55,0.5,1>] } } finish { diffuse 0.8 ambient 0 } }
#declare Floor = texture { pigment { brick pigment { srgb <0.10,0.08,0.07> } pigment { granite scale 0.4 color_map { [0 srgb <0.26,0.20,0.17>] [1 srgb <0.40,0.32,0.27>] } } brick_size <0.34,0.5,0.34> mortar 0.012 turbulence 0.006 translate y*0.2 } normal { granite 0.3 scale 0.2 } finish { diffuse 0.75 ambient 0 specular 0.1 roughness 0.03 } }
plane { y, 0 texture { Floor } }
difference { box { <-4,0,2.4>,<4,3.2,2.6> } box { <0.62,-0.1,2>,<1.62,2.15,3> } texture { Lime } }
box { <-2.2,0,-3>,<-2.0,3.2,2.6> texture { Lime } }
union { box { <0.54,0,2.34>,<0.63,2.24,2.45> } box { <1.61,0,2.34>,<1.70,2.24,2.45> } box { <0.54,2.14,2.34>,<1.70,2.25,2.45> }
  texture { pigment { wood turbulence 0.06 scale 0.05 rotate x*88 color_map { [0 srgb <0.21,0.19,0.17>] [1 srgb <0.30,0.27,0.24>] } } finish { diffuse 0.75 ambient 0 } } }
// outside: pale yard and sky
plane { z, 7 texture { pigment { gradient y color_map { [0 srgb <0.62,0.66,0.68>] [0.18 srgb <0.74,0.79,0.83>] [1 srgb <0.82,0.88,0.94>] } scale 4 } finish { ambient 0 emission 0.95 diffuse 0 } } }
box { <-2,0,5.2>,<4,1.05,5.4> texture { pigment { granite scale 0.5 color_map { [0 srgb <0.34,0.36,0.37>] [1 srgb <0.46,0.48,0.48>] } } finish { diffuse 0.6 emission 0.25 ambient 0 } } }
// ------------------------------------------------------------ stove on the left
#declare Iron = texture { pigment { granite scale 0.2 color_map { [0 srgb <0.055,0.05,0.05>] [1 srgb <0.13,0.11,0.10>] } } normal { granite 0.2 scale 0.05 } finish { diffuse 0.7 ambient 0 specular 0.3 roughness 0.05 } }
union {
  difference { box { <-1.75,0.12,-0.75>,<-1.02,0.98,0.25> } box { <-1.6,0.2,-0.62>,<-0.9,0.47,0.08> } }
  box { <-1.8,0.98,-0.8>,<-0.97,1.03,0.3> }
  cylinder { <-1.38,1.03,-0.2>,<-1.38,3.2,-0.2>,0.085 }
  #local i=0; #while (i<6) cylinder { <-1.03,0.2,-0.54+0.11*i>,<-1.03,0.47,-0.54+0.11*i>,0.012 } #local i=i+1; #end
  cylinder { <-1.7,0,-0.7>,<-1.7,0.12,-0.7>,0.03 } cylinder { <-1.08,0,-0.7>,<-1.08,0.12,-0.7>,0.03 } cylinder { <-1.08,0,0.2>,<-1.08,0.12,0.2>,0.03 } texture { Iron } }
box { <-1.58,0.2,-0.6>,<-1.3,0.42,0.05> texture { pigment { bozo turbulence 0.8 scale 0.09 color_map { [0 srgb <1,0.30,0.05>] [0.6 srgb <1,0.55,0.15>] [1 srgb <0.5,0.1,0.02>] } } finish { emission 1.6 diffuse 0 ambient 0 } } no_shadow }
// ------------------------------------------------------------ stool
#declare OldWood = texture { pigment { wood turbulence 0.1 octaves 4 scale <0.06,0.06,0.6> rotate y*80 color_map { [0 srgb <0.30,0.21,0.14>] [0.5 srgb <0.42,0.31,0.21>] [1 srgb <0.24,0.17,0.12>] } } normal { granite 0.15 scale 0.1 } finish { diffuse 0.75 ambient 0 specular 0.08 roughness 0.05 } }
 texture { pigment { bozo turbulence 0.9 scale 0.12 color_map { [0 srgbt <0.1,0.08,0.07,0.5>] [0.5 srgbt <0.2,0.2,0.2,1>] [0.9 srgbt <0.7,0.68,0.6,0.95>] [1 srgbt <0.75,0.72,0.66,0.4>] } } finish { diffuse 0.75 ambient 0 } }
union { cylinder { <0,0.425,0>,<0,0.465,0>,0.255 } torus { 0.245,0.02 translate <0,0.445,0> }
  #local i=0; #while (i<4) cone { <0.17*cos(i*pi/2+0.6),0.43,0.17*sin(i*pi/2+0.6)>,0.026,<0.25*cos(i*pi/2+0.6),0,0.25*sin(i*pi/2+0.6)>,0.02 }
   cylinder { <0.21*cos(i*pi/2+0.6),0.2,0.21*sin(i*pi/2+0.6)>,<0.21*cos(i*pi/2+pi/2+0.6),0.2,0.21*sin(i*pi/2+pi/2+0.6)>,0.012 } #local i=i+1; #end texture { OldWood } }
// ------------------------------------------------------------ hen
#declare Grey1 = srgb <0.34,0.33,0.33>; #declare Grey2 = srgb <0.62,0.60,0.57>; #declare Buff = srgb <0.66,0.50,0.30>; #declare Dark = srgb <0.15,0.14,0.14>;
#macro Feather(P, N, T, L, Wd, Warm)
  #local B = vnormalize(vcross(N,T)); #local T2 = vnormalize(vcross(B,N)); #local k = 0.75+0.45*rand(Seed); #local w = min(1,max(0,Warm+0.35*(rand(Seed)-0.5)));
  #local Light = (Grey2*(1-w)+Buff*w)*k; #local Low = (Grey1*(1-w*0.8)+Buff*0.55*w*0.8)*k;
  sphere { 0,1 scale <1,0.055,0.5> translate <0.72,0,0> scale <L,L*0.8,Wd*2>
    texture { pigment { gradient x turbulence 0.05 color_map { [0 Low] [0.30 Low] [0.36 Light] [0.52 Light] [0.58 Dark*k] [0.70 Dark*k] [0.78 Light] [0.94 Light*1.1] [1 Low] } scale 1.75*L translate <-0.25*L,0,0> }
      normal { gradient z 0.4 sine_wave scale L*0.06 rotate y*22 } finish { diffuse 0.85 ambient 0 specular 0.05 roughness 0.06 } }
    rotate z*(4+5*rand(Seed)) rotate y*(22*(rand(Seed)-0.5)) matrix <T2.x,T2.y,T2.z, N.x,N.y,N.z, B.x,B.y,B.z, P.x,P.y,P.z> }
#end
#macro Plumage(C, R, Dir, Rows, L, Wd, Warm, From, To)
  #local i=0; #while (i<Rows) #local uu = From + (To-From)*(i+0.5)/Rows; #local ring = max(6, int(2*pi*max(R.y,R.z)*cos(uu)/(Wd*0.62))); #local j=0;
   #while (j<ring) #local vv = 2*pi*(j+0.5*mod(i,2)+0.3*rand(Seed))/ring;
    #local E = <sin(uu),cos(uu)*cos(vv),cos(uu)*sin(vv)>; #local P = C+<R.x*E.x,R.y*E.y,R.z*E.z>; #local N = vnormalize(<E.x/R.x,E.y/R.y,E.z/R.z>);
    #local T = Dir-vdot(Dir,N)*N; #if (vlength(T)>0.05) Feather(P-N*0.004, N, vnormalize(T), L*(0.8+0.4*rand(Seed)), Wd, Warm) #end #local j=j+1; #end #local i=i+1; #end
#end
#declare Down = texture { pigment { granite scale 0.05 color_map { [0 srgb <0.30,0.28,0.26>] [1 srgb <0.52,0.48,0.42>] } } finish { diffuse 0.8 ambient 0 } }
#declare Hen = union {
  sphere { 0,1 scale <0.185,0.135,0.125> translate <0,0.60,0> texture { Down } }
  sphere { 0,1 scale <0.085,0.12,0.08> rotate z*18 translate <-0.135,0.71,0> texture { Down } }
  Plumage(<0,0.60,0>, <0.188,0.138,0.128>, vnormalize(<1,-0.12,0>), 38, 0.026, 0.0125, 0.25, -1.35, 1.30)
  Plumage(<-0.11,0.645,0>, <0.098,0.105,0.098>, vnormalize(<0.75,-0.65,0>), 24, 0.019, 0.0095, 0.75, -1.45, 1.1)
  Plumage(<-0.150,0.735,0>, <0.060,0.085,0.057>, vnormalize(<0.35,-1,0>), 26, 0.015, 0.0065, 0.95, -1.5, 1.3)
  // wing: longer, greyer, one on the viewer's side
  Plumage(<0.045,0.61,-0.062>, <0.135,0.085,0.075>, vnormalize(<1,-0.30,0>), 22, 0.040, 0.015, 0.05, -1.2, 0.9)
  // tail
  #local i=0; #while (i<26) #local a = 18+58*rand(Seed); #local d=(rand(Seed)-0.5)*0.09; Feather(<0.145+0.01*rand(Seed),0.635,d>, vnormalize(<-sin(radians(a)),cos(radians(a)),d*4>), vnormalize(<cos(radians(a)),sin(radians(a)),d*2>), 0.085+0.03*rand(Seed), 0.026, 0.1) #local i=i+1; #end
  // head
  union { sphere { 0,1 scale <0.044,0.036,0.032> translate <-0.182,0.815,0> } texture { pigment { granite scale 0.02 color_map { [0 srgb <0.55,0.40,0.24>] [1 srgb <0.68,0.54,0.36>] } } normal { granite 0.5 scale 0.01 } finish { diffuse 0.8 ambient 0 } } }
  Plumage(<-0.178,0.812,0>, <0.045,0.038,0.034>, vnormalize(<0.9,-0.4,0>), 12, 0.010, 0.006, 0.9, -0.75, 1.4)
  cone { <-0.220,0.812,0>,0.012,<-0.256,0.800,0>,0.001 texture { pigment { srgb <0.56,0.46,0.30> } finish { diffuse 0.7 ambient 0 specular 0.3 roughness 0.04 } } }
  union { #local i=0; #while (i<6) sphere { 0,1 scale <0.011,0.020-0.002*abs(i-2.5),0.006> rotate z*(20-14*i) translate <-0.212+0.013*i,0.855+0.006*sin(i*0.6),0> } #local i=i+1; #end
    sphere { 0,1 scale <0.009,0.020,0.005> translate <-0.218,0.778,-0.008> } sphere { 0,1 scale <0.016,0.013,0.006> translate <-0.200,0.815,-0.028> }
    texture { pigment { granite scale 0.02 color_map { [0 srgb <0.52,0.10,0.08>] [1 srgb <0.66,0.17,0.13>] } } normal { granite 0.4 scale 0.012 } finish { diffuse 0.8 ambient 0 specular 0.15 roughness 0.08 } } }
  sphere { <-0.197,0.824,-0.029>,0.0065 texture { pigment { srgb <0.62,0.36,0.10> } finish { diffuse 0.6 ambient 0 specular 0.5 roughness 0.01 } } } sphere { <-0.198,0.824,-0.0335>,0.0034 texture { pigment { srgb 0.02 } finish { specular 0.9 roughness 0.004 } } }
}
object { Hen translate <0,-0.01,0> scale 1.08 translate <0.0,-0.035,0> }
// ------------------------------------------------------------ bowl: pale enamel, on the stool's front left; chipped rim
#declare Enamel = texture { pigment { granite scale 0.5 color_map { [0 srgb <0.80,0.79,0.75>] [1 srgb <0.87,0.86,0.82>] } } finish { diffuse 0.82 ambient 0 specular 0.45 roughness 0.012 reflection { 0.02, 0.16 } } }
 texture { pigment { bozo turbulence 0.8 scale 0.05 color_map { [0 srgbt <0.1,0.09,0.09,0.1>] [0.07 srgbt <0.2,0.18,0.16,0.9>] [0.1 srgbt <0.2,0.2,0.2,1>] [1 srgbt <0.2,0.2,0.2,1>] } } finish { diffuse 0.7 ambient 0 } }
#declare Bowl = union { difference { sphere { <0,0.16,0>,0.16 } sphere { <0,0.163,0>,0.15 } box { <-1,0.105,-1>,<1,1,1> } box { <-1,-1,-1>,<1,0.008,1> } } torus { 0.150,0.006 translate <0,0.105,0> } texture { Enamel } }
object { Bowl scale 1.15 translate <-0.40,0,-0.28> }
sphere { 0,1 scale <0.11,0.03,0.11> translate <-0.40,0.052,-0.28> texture { pigment { granite scale 0.03 color_map { [0 srgb <0.42,0.30,0.15>] [1 srgb <0.70,0.56,0.33>] } } normal { granite 0.9 scale 0.02 } finish { diffuse 0.8 ambient 0 } } }
// straw and grains on the floor
#local i=0; #while (i<210) #local px=-1.1+2.2*rand(Seed); #local pz=-0.9+2.2*rand(Seed); #local a=360*rand(Seed); cylinder { <-0.03-0.05*rand(Seed),0.004,0>,<0.05,0.006,0>,0.0022 rotate y*a translate <px,0,pz> texture { pigment { srgb <0.62,0.52,0.30>*(0.6+0.6*rand(Seed)) } finish { diffuse 0.8 ambient 0 } } } #local i=i+1; #end
camera { perspective right x*3/4 up y location <-0.20,0.80,-1.62> look_at <-0.13,0.50,0> angle 32
  #ifdef (Blur) aperture 0.022 focal_point <-0.1,0.6,-0.1> blur_samples 8 variance 1/600 confidence 0.85 #end }
